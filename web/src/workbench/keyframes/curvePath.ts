/** The line of a lane in view: straight where it is straight, a point every few pixels elsewhere. */
import { indexBefore, throughSilence, valueOn } from '../../reel/curve';
import { scaleOf, shareIn, valueAtPlace, type Lane } from './lanes';

const STEP_PX = 3;
/** The lane goes on a little beyond the stretch in view. */
const BEYOND_PX = 20;

export function curvePath(
  lane: Lane,
  start: number,
  scale: number,
  width: number,
  height: number,
  edge: number,
): string {
  const y = (value: number) => edge + (1 - shareIn(lane, value)) * (height - 2 * edge);
  const dot = (px: number, value: number) => `${px.toFixed(1)} ${y(value).toFixed(1)}`;
  const px = (at: number) => (lane.origin + at - start) / scale;
  if (!lane.points.length) {
    const level = y(valueAtPlace(lane, start)).toFixed(1);
    return `M0 ${level}H${width + BEYOND_PX}`;
  }
  const { points } = lane;
  const kind = scaleOf(lane);
  const from = start - lane.origin;
  const to = from + width * scale;
  const first = Math.max(0, indexBefore(points, from));
  let path = `M${dot(0, valueOn(points, kind, from))}`;
  let drawn = 0;
  for (let i = first; i < points.length && points[i]!.at <= to + scale; i++) {
    const a = points[i]!;
    const b = points[i + 1];
    const here = px(a.at);
    if (here >= 0) {
      // Of many keyframes on one pixel, the last one's value is what goes on.
      path += `L${dot(here, a.value)}`;
      drawn = here;
    }
    if (!b) break;
    const end = Math.min(px(b.at), width);
    if (a.ease === 'hold') {
      path += `H${px(b.at).toFixed(1)}`;
      continue;
    }
    const bent = kind === 'log' || (kind === 'db' && throughSilence(a, b));
    if ((a.ease ?? 'linear') === 'linear' && !bent && !a.soft) continue;
    for (let p = Math.max(drawn, here) + STEP_PX; p < end; p += STEP_PX)
      path += `L${dot(p, valueOn(points, kind, from + p * scale))}`;
  }
  const last = points[points.length - 1]!;
  if (px(last.at) < width) path += `H${width + BEYOND_PX}`;
  else path += `L${dot(width, valueOn(points, kind, to))}`;
  return path;
}
