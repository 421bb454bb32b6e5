/** From part to part and from keyframe to keyframe, by keys. */
import type { ReelDocument } from '../../reel/document';
import { partsOf, type Part, type Selection } from './selection';

interface Placed extends Part {
  track: string;
  start: number;
}

/** Clips and treatments track by track, in the order in which they begin. */
export function inOrder(reel: ReelDocument): Placed[] {
  return (reel.tracks ?? []).flatMap((track) =>
    [
      ...(track.clips ?? []).map((c) => ({ kind: 'clip' as const, id: c.id, start: c.start })),
      ...(track.treatments ?? []).map((t) => ({
        kind: 'treatment' as const,
        id: t.id,
        start: t.start,
      })),
    ]
      .map((part) => ({ ...part, track: track.id }))
      .sort((a, b) => a.start - b.start),
  );
}

/**
 * The part that one goes on to.
 *
 * From a selected part to its neighbour, over the ends of tracks; from a track to what lies nearest
 * to the playhead on it; from nothing to the first of the reel.
 */
export function nextPart(
  reel: ReelDocument,
  selection: Selection,
  playhead: number,
  by: 1 | -1,
): Part | undefined {
  const all = inOrder(reel);
  const own = partsOf(selection)[0];
  const place = all.findIndex((part) => part.kind === own?.kind && part.id === own.id);
  if (place >= 0) return all[place + by];
  const here = selection.kind === 'track' ? all.filter((part) => part.track === selection.id) : all;
  if (selection.kind !== 'track') return by > 0 ? here[0] : here.at(-1);
  return by > 0
    ? (here.find((part) => part.start >= playhead) ?? here.at(-1))
    : (here.findLast((part) => part.start <= playhead) ?? here[0]);
}
