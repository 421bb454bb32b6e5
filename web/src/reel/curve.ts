/** Values between keyframes, for drawing. The sound's own are computed by the server. */
import type { Keyframe, Movable } from './document';

export type Scale = 'linear' | 'log' | 'db';

const SILENCE_DB = -96;
const QUIETEST_DB = -200;

/** The shape of a way at progress `u`: the rules of the server's curves. */
export function eased(ease: string, bend: number, soft: number, u: number): number {
  if (u <= 0) return 0;
  if (u >= 1) return 1;
  const s = shape(ease, bend, u);
  return s + soft * (s * s * (3 - 2 * s) - s);
}

function shape(ease: string, bend: number, u: number): number {
  switch (ease) {
    case 'hold':
      return 0;
    case 'smooth':
      return u * u * (3 - 2 * u);
    case 'equal_power':
      return Math.sin((Math.PI * u) / 2);
    case 'log':
      return (10 ** (2 * u) - 1) / 99;
    case 'bend':
      return u ** (4 ** bend);
    default:
      return u;
  }
}

/** The last of the points at or before a sample, or −1. */
export function indexBefore(points: Keyframe[], at: number): number {
  let low = 0;
  let high = points.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (points[middle]!.at <= at) low = middle + 1;
    else high = middle;
  }
  return low - 1;
}

/** The value at a sample of the owner. */
export function valueOn(points: Keyframe[], scale: Scale, at: number): number {
  const i = indexBefore(points, at);
  if (i < 0) return points[0]!.value;
  const a = points[i]!;
  const b = points[i + 1];
  if (!b) return a.value;
  const s = eased(a.ease ?? 'linear', a.bend ?? 0, a.soft ?? 0, (at - a.at) / (b.at - a.at));
  if (scale === 'log') return a.value * (b.value / a.value) ** s;
  if (scale === 'db' && throughSilence(a, b)) {
    const [from, to] = [amplitude(a.value), amplitude(b.value)];
    return Math.max(QUIETEST_DB, 20 * Math.log10(from + s * (to - from)));
  }
  return a.value + s * (b.value - a.value);
}

/** Whether a level begins or ends in silence: it moves there in amplitude. */
export function throughSilence(a: Keyframe, b: Keyframe): boolean {
  return a.value <= SILENCE_DB || b.value <= SILENCE_DB;
}

function amplitude(db: number): number {
  return db <= SILENCE_DB ? 0 : 10 ** (db / 20);
}

export function pointsIn(value: Movable | undefined): Keyframe[] {
  return typeof value === 'object' ? value.keyframes : [];
}
