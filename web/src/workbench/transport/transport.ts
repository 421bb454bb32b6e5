/** Moving the playhead by frames and cuts. */
import { useMemo } from 'react';
import { usePlayer } from '../../player/player';
import { useSession } from '../../reel/session';
import { newId } from '../../ui/ids';
import type { ReelDocument } from '../../reel/document';
import { useTools } from '../tools/context';
import { beatsNow, useFound } from '../tools/found';
import { isSelected, useSelection } from '../selected/selection';
import { useView } from '../axis/view';
import { reelNow, useReel } from '../../reel/useReel';

const AROUND_SECONDS = 2;

/** Markers on the beats of a range, or on every so many of them. */
export function markBeats(range: { start: number; end: number }, every: number): boolean {
  const inside = beatsNow().filter((b) => b >= range.start && b < range.end);
  const markers = inside
    .filter((_, i) => i % every === 0)
    .map((at) => ({ id: newId('k'), at, label: '', kind: 'music' }));
  if (!markers.length) return false;
  void useSession.getState().edit({ kind: 'add_markers', markers });
  return true;
}

/** Where a range has been begun by key. */
let anchor: { track: string; at: number } | undefined;

export function useTransport() {
  const { clock, player } = useTools();
  const cuts = useReel((d) => d.picture?.cuts);
  const onsets = useFound((found) => found?.onsets);
  return useMemo(() => {
    const here = () => usePlayer.getState().position;
    const edges = () => {
      const end = useSession.getState().derived?.length ?? 0;
      return [0, ...(cuts ?? []).map((c) => clock.sampleOfFrame(c)), end];
    };
    return {
      step: (frames: number) => {
        player.pause();
        const frame = clock.frameOfSample(here()) + frames;
        player.seek(clock.sampleOfFrame(Math.max(0, frame)));
      },
      toCut: (direction: 1 | -1) => {
        const at = here();
        const found =
          direction > 0
            ? edges().find((e) => e > at)
            : edges().findLast((e) => e < at - (usePlayer.getState().playing ? 24000 : 0));
        if (found !== undefined) player.seek(found);
      },
      toMarker: (direction: 1 | -1) => {
        const at = here();
        const list = (useSession.getState().document?.markers ?? [])
          .map((m) => m.at)
          .sort((a, b) => a - b);
        const slack = usePlayer.getState().playing ? clock.sampleRate / 2 : 0;
        const found =
          direction > 0 ? list.find((m) => m > at) : list.findLast((m) => m < at - slack);
        if (found !== undefined) player.seek(found);
      },
      zoomTo: (what: 'all' | 'selection') => {
        const view = useView.getState();
        const range = what === 'selection' ? rangeToLoop(reelNow()) : undefined;
        if (range) view.fit(range.start, range.end);
        else view.fit(0, view.length);
      },
      /** To the next onset of the selected clip; without one, to the next edge of any part. */
      toOnset: (direction: 1 | -1) => {
        const { selection } = useSelection.getState();
        const own = selection.kind === 'clip' ? onsets?.[selection.id] : undefined;
        const list = own?.length ? own : partEdges(reelNow());
        const at = here();
        const found = direction > 0 ? list.find((s) => s > at) : list.findLast((s) => s < at);
        if (found !== undefined) player.seek(found);
      },
      toBeat: (direction: 1 | -1) => {
        const at = here();
        const slack = usePlayer.getState().playing ? clock.sampleRate / 4 : 0;
        const found =
          direction > 0
            ? beatsNow().find((beat) => beat > at)
            : beatsNow().findLast((beat) => beat < at - slack);
        if (found !== undefined) player.seek(found);
        return found !== undefined;
      },
      /** A marker on every beat of the range, or on every so many of them. */
      markBeats: (every: number) => {
        const { selection } = useSelection.getState();
        return selection.kind === 'range' && markBeats(selection, every);
      },
      dropMarker: () => {
        // While playing, what is heard at this moment counts, not what has been sent to the device.
        const at = usePlayer.getState().playing ? player.heard() : here();
        const markers = [{ id: newId('k'), at, label: '', kind: 'note' }];
        void useSession.getState().edit({ kind: 'add_markers', markers });
      },
      /** Begin a range at the playhead on the track in hand; called again, end it there. */
      markRange: () => {
        const { selection } = useSelection.getState();
        const tracks = useSession.getState().document?.tracks ?? [];
        const at = clock.sampleOfFrame(clock.frameOfSample(here()));
        if (takeRange(at)) return;
        const own =
          selection.kind === 'track'
            ? selection.id
            : selection.kind === 'range'
              ? selection.tracks[0]
              : tracks.find((t) =>
                  [...(t.clips ?? []), ...(t.treatments ?? [])].some(
                    (part) => 'id' in selection && part.id === selection.id,
                  ),
                )?.id;
        const track = own ?? tracks[0]?.id;
        if (track) anchor = { track, at };
      },
      endRange: () => takeRange(clock.sampleOfFrame(clock.frameOfSample(here()))),
      forgetRange: () => {
        anchor = undefined;
      },
      aroundCut: () => {
        const at = here();
        const list = edges().slice(1, -1);
        const nearest = list.reduce<number | undefined>(
          (best, e) => (best === undefined || Math.abs(e - at) < Math.abs(best - at) ? e : best),
          undefined,
        );
        const middle = nearest ?? at;
        const span = AROUND_SECONDS * clock.sampleRate;
        void player.play(Math.max(0, middle - span), middle + span);
      },
      toggleLoop: () => {
        const { loop } = usePlayer.getState();
        if (loop) {
          player.setLoop(undefined);
          return;
        }
        const range = rangeToLoop(reelNow());
        if (range) player.setLoop(range);
      },
    };
  }, [clock, player, cuts, onsets]);
}

/** Where clips and treatments begin and end, rising. */
function partEdges(document: ReelDocument): number[] {
  const parts = (document.tracks ?? []).flatMap((t) => [
    ...(t.clips ?? []),
    ...(t.treatments ?? []),
  ]);
  const edges = parts.flatMap((p) => [p.start, p.start + p.length]);
  return [...new Set(edges)].sort((a, b) => a - b);
}

/** The range, or from where the first of the selected parts begins to where the last ends. */
function rangeToLoop(document: ReelDocument) {
  const { selection } = useSelection.getState();
  if (selection.kind === 'range') return { start: selection.start, end: selection.end };
  const parts = (document.tracks ?? []).flatMap((track) => [
    ...(track.treatments ?? []).filter(({ id }) =>
      isSelected(selection, { kind: 'treatment', id }),
    ),
    ...(track.clips ?? []).filter(({ id }) => isSelected(selection, { kind: 'clip', id })),
  ]);
  if (!parts.length) return undefined;
  return {
    start: Math.max(0, Math.min(...parts.map((part) => part.start))),
    end: Math.max(...parts.map((part) => part.start + part.length)),
  };
}

/** End the range that has been begun, if one has been begun elsewhere. */
function takeRange(at: number): boolean {
  if (!anchor || anchor.at === at) return false;
  const [start, end] = [Math.min(anchor.at, at), Math.max(anchor.at, at)];
  useSelection.getState().select({ kind: 'range', tracks: [anchor.track], start, end });
  anchor = undefined;
  return true;
}
