/** Laying a medium on the timeline: dragged from the shelf, or at the playhead by a key. */
import type { PointerEvent } from 'react';
import type { MediaLine } from '../../api/client';
import { usePlayer } from '../../player/player';
import { trackOf, type Medium } from '../../reel/document';
import { soundOf } from '../../reel/importing';
import { useSession, type Command } from '../../reel/session';
import { reelNow } from '../../reel/useReel';
import { newId } from '../../ui/ids';
import { useTools } from '../tools/context';
import { useSelection, type Selection } from '../selected/selection';
import { dragToTrack } from '../axis/layDrag';

/** Samples of a medium as it is prepared, from the first to the one after the last. */
export type Part = [number, number];

export function useLaying(medium: Medium, line: MediaLine | undefined, part: Part | undefined) {
  const { clock } = useTools();
  const select = useSelection((s) => s.select);
  const command = (clip: string, at: object, on: object): Command | undefined =>
    !line?.info.sound
      ? undefined
      : {
          kind: 'lay_sound',
          media: medium.id,
          sound: soundOf(line),
          clip,
          at,
          ...on,
          ...(part && { part }),
        };
  const pick = (clip: string) => select({ kind: 'clip', id: clip });

  /** Drag it to a track, or below all tracks onto one of its own. */
  const begin = (e: PointerEvent<Element>) => {
    if (e.button !== 0 || !line?.info.sound) return;
    dragToTrack(e, clock, {
      commands: (clip, at, on) => {
        const found = command(clip, at, on);
        return found ? [found] : [];
      },
      laid: pick,
    });
  };

  /** Lay it at the playhead, on the selected track or else on one of its own. */
  const atPlayhead = () => {
    const clip = newId('c');
    const frame = clock.frameOfSample(usePlayer.getState().position);
    const track = trackSelected(useSelection.getState().selection);
    const found = command(clip, { frame }, track ? { track } : { new_track: newId('t') });
    if (found)
      void useSession
        .getState()
        .edit(found)
        .then((done) => done && pick(clip));
  };
  return { begin, atPlayhead };
}

/** The track that the selection is, or lies on. */
export function trackSelected(selection: Selection): string | undefined {
  if (selection.kind === 'track') return selection.id;
  if (selection.kind === 'range') return selection.tracks[0];
  if (selection.kind === 'clip') return trackOf(reelNow(), 'clips', selection.id)?.id;
  if (selection.kind === 'treatment') return trackOf(reelNow(), 'treatments', selection.id)?.id;
  return undefined;
}
