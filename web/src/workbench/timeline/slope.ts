/** Ramps and fades as they are heard, as points of a path. */
import { eased } from '../../reel/curve';

const POINTS = 10;

/**
 * The way from one place to another by a shape, without its first point; straight ones are a line.
 *
 * `rising` says whether the shape is run forwards: a ramp out is the same shape seen from its end.
 */
export function slope(
  shape: string | undefined,
  from: readonly [number, number],
  to: readonly [number, number],
  rising: boolean,
): string {
  const straight = (shape ?? 'linear') === 'linear' || Math.abs(to[0] - from[0]) < 2;
  const count = straight ? 1 : POINTS;
  let path = '';
  for (let i = 1; i <= count; i++) {
    const u = i / count;
    const s = rising
      ? eased(shape ?? 'linear', 0, 0, u)
      : 1 - eased(shape ?? 'linear', 0, 0, 1 - u);
    const x = from[0] + u * (to[0] - from[0]);
    const y = from[1] + s * (to[1] - from[1]);
    path += `L${x.toFixed(1)} ${y.toFixed(1)}`;
  }
  return path;
}
