/** Laying a medium on the timeline: dragged from the shelf, or at the playhead by a key. */
import type { PointerEvent } from 'react';
import type { MediaLine } from '../../api/client';
import { drag } from '../../hand/pointer';
import { usePlayer } from '../../player/player';
import { trackOf, type Medium } from '../../reel/document';
import { soundOf } from '../../reel/importing';
import { useSession, type Command } from '../../reel/session';
import { reelNow } from '../../reel/useReel';
import { newId } from '../../ui/ids';
import { useTools } from '../tools/context';
import { useSelection, type Selection } from '../selected/selection';
import { laneUnder } from '../axis/laneUnder';
import { useReadout } from '../axis/readout';
import { snap } from '../axis/snap';
import { targetsNow } from '../axis/targets';
import { HEADS, useView } from '../axis/view';

/** Samples of a medium as it is prepared, from the first to the one after the last. */
export type Part = [number, number];

const MOVED_PX = 4;

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
    e.preventDefault();
    const { show } = useReadout.getState();
    const [clip, track] = [newId('c'), newId('t')];
    const targets = targetsNow(clock);
    const from = { x: e.clientX, y: e.clientY };
    let laid = false;
    let meant = false;
    drag(e, {
      moved: (m) => {
        meant ||= Math.hypot(m.clientX - from.x, m.clientY - from.y) >= MOVED_PX;
        if (!meant) return undefined;
        const place = placeUnder(m);
        laid = place !== undefined;
        if (!place) {
          show(undefined);
          return [];
        }
        const { scale } = useView.getState();
        const to = snap(Math.max(0, place.sample), targets, clock, scale, m.altKey);
        // Its own track is there only in the draft.
        const there = place.track === track ? undefined : place.track;
        const on = there ? { track: there } : { new_track: track };
        const where = there ? '' : ' · on a track of its own';
        show({ sample: to.sample, to: to.to, text: `${clock.timecode(to.sample)}${where}` });
        const found = command(clip, { sample: to.sample }, on);
        return found ? [found] : [];
      },
      over: (kept) => {
        show(undefined);
        if (kept && laid) pick(clip);
      },
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
function trackSelected(selection: Selection): string | undefined {
  if (selection.kind === 'track') return selection.id;
  if (selection.kind === 'range') return selection.tracks[0];
  if (selection.kind === 'clip') return trackOf(reelNow(), 'clips', selection.id)?.id;
  if (selection.kind === 'treatment') return trackOf(reelNow(), 'treatments', selection.id)?.id;
  return undefined;
}

/** Where on the timeline a pointer is; on no track if it is below all of them. */
function placeUnder(m: globalThis.PointerEvent) {
  const lane = laneUnder(m);
  const tracks = window.document
    .elementsFromPoint(m.clientX, m.clientY)
    .find((el) => el.classList.contains('tracks'));
  if (!lane && !tracks) return undefined;
  const { start, scale } = useView.getState();
  const left = lane?.getBoundingClientRect().left ?? tracks!.getBoundingClientRect().left + HEADS;
  return { track: lane?.dataset['track'], sample: start + (m.clientX - left) * scale };
}
