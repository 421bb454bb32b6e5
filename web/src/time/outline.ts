/** Where in its medium each moment of a clip lies, as the engine says. */
import type { Clip } from '../reel/document';

/** Points of a map: samples of the clip, samples of the medium; none where both go alike. */
export type Outline = number[][] | undefined;

/** Place in the medium of a sample counted from the clip's start; beyond its ends it goes on. */
export function placeIn(clip: Clip, outline: Outline, t: number): number {
  const last = outline?.length ?? 0;
  if (!outline || last < 2) return (clip.source_start ?? 0) + (clip.speed?.origin ?? 0) + t;
  let i = 1;
  while (i < last - 1 && outline[i]![0]! < t) i++;
  const [a, b] = outline[i - 1]! as [number, number];
  const [c, d] = outline[i]! as [number, number];
  return b + ((t - a) * (d - b)) / Math.max(1, c - a);
}

/** A stretch of a clip in which time goes by evenly. */
export interface Even {
  from: number;
  to: number;
  /** Its first and last place in the medium. */
  source: [number, number];
}

/** The even stretches of a clip between two of its samples. */
export function evenStretches(clip: Clip, outline: Outline, from: number, to: number): Even[] {
  const inside = (outline ?? []).map((p) => p[0]!).filter((t) => t > from && t < to);
  const knots = [from, ...inside, to];
  return knots.slice(1).map((end, i) => {
    const begin = knots[i]!;
    // Just inside, so that a corner of the map belongs to its own side.
    const nudge = Math.min(1, (end - begin) / 4);
    const rate =
      (placeIn(clip, outline, end - nudge) - placeIn(clip, outline, begin + nudge)) /
      Math.max(1e-9, end - begin - 2 * nudge);
    const first = placeIn(clip, outline, begin + nudge) - nudge * rate;
    return { from: begin, to: end, source: [first, first + (end - begin) * rate] };
  });
}
