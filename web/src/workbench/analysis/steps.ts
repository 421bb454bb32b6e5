/** How fine columns are, by how much of the reel is in view; as `core/analysis/tiles.py` has them. */

/** Columns a second that can be had, the finest first. */
export const STEPS = [200, 50, 10, 2, 1 / 2, 1 / 10] as const;
/** Columns of a tile. */
export const COLUMNS = 200;
/** Columns for each pixel that are enough. */
const ENOUGH = 0.75;

/** The place in {@link STEPS} of the coarsest columns that are fine enough for a scale. */
export function stepFor(samplesPerPixel: number, rate: number, finest: number): number {
  const wanted = (ENOUGH * rate) / samplesPerPixel;
  const coarse = STEPS.findLastIndex((step) => step >= wanted);
  const allowed = STEPS.findIndex((step) => step <= finest);
  return Math.max(allowed, coarse);
}

/** Samples of a column. */
export function samplesOf(step: number, rate: number): number {
  return rate / STEPS[step]!;
}
