/** What only a drag could do, done at the playhead: trims, fades and ramps of what is selected. */
import type { ReelDocument } from '../../reel/document';
import type { Command } from '../../reel/session';
import type { Clock } from '../../time/clock';
import type { Part } from './selection';

type Edge = 'start' | 'end';

/** Parts begin or end at a moment; those that do not reach it stay as they are. */
export function trimmedAt(reel: ReelDocument, parts: readonly Part[], edge: Edge, sample: number) {
  return spans(reel, parts).flatMap(({ part, start, end }): Command[] => {
    if (edge === 'start' ? sample >= end : sample <= start) return [];
    if (part.kind === 'clip') return [{ kind: 'trim_clip', id: part.id, edge, to: { sample } }];
    const [from, to] = edge === 'start' ? [sample, end] : [start, sample];
    return [{ kind: 'set_treatment', id: part.id, start: { sample: from }, end: { sample: to } }];
  });
}

/** Clips fade, and treatments ramp, from their start to a moment, or from it to their end. */
export function fadedAt(
  reel: ReelDocument,
  clock: Clock,
  parts: readonly Part[],
  edge: 'in' | 'out',
  sample: number,
) {
  return spans(reel, parts).flatMap(({ part, start, end }): Command[] => {
    if (sample <= start || sample >= end) return [];
    const [from, to] = edge === 'in' ? [start, sample] : [sample, end];
    const frames = clock.frameOfSample(to) - clock.frameOfSample(from);
    if (part.kind === 'clip') return [{ kind: 'set_fade', id: part.id, edge, fade: { frames } }];
    return [{ kind: 'set_treatment', id: part.id, [`ramp_${edge}`]: { frames } }];
  });
}

function spans(reel: ReelDocument, parts: readonly Part[]) {
  return (reel.tracks ?? []).flatMap((track) =>
    parts.flatMap((part) => {
      const list = part.kind === 'clip' ? track.clips : track.treatments;
      const found = list?.find((one) => one.id === part.id);
      return found ? [{ part, start: found.start, end: found.start + found.length }] : [];
    }),
  );
}
