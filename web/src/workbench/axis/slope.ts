/** Ramps and fades as they are heard, as points of a path. */
import { eased } from '../../reel/curve';
import type { Ramp } from '../../reel/document';

const POINTS = 10;

/**
 * The way from one place to another by a ramp's shape, without its first point; straight ones are a line.
 *
 * `rising` says whether the shape is run forwards: a ramp out is the same shape seen from its end.
 */
export function slope(
  ramp: Ramp | undefined,
  from: readonly [number, number],
  to: readonly [number, number],
  rising: boolean,
): string {
  const shape = ramp?.shape ?? 'linear';
  const bend = ramp?.bend ?? 0;
  const straight = shape === 'linear' || Math.abs(to[0] - from[0]) < 2;
  const count = straight ? 1 : POINTS;
  let path = '';
  for (let i = 1; i <= count; i++) {
    const u = i / count;
    const s = rising ? eased(shape, bend, 0, u) : 1 - eased(shape, bend, 0, 1 - u);
    const x = from[0] + u * (to[0] - from[0]);
    const y = from[1] + s * (to[1] - from[1]);
    path += `L${x.toFixed(1)} ${y.toFixed(1)}`;
  }
  return path;
}
