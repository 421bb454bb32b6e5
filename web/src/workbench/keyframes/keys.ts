/** Keyframes that are selected, and where an edit takes them. */
import type { Keyframe } from '../../reel/document';
import { shiftOf } from '../axis/spanDrag';
import type { Key } from '../selected/selection';
import type { Clock } from '../../time/clock';
import { shareIn, valueIn, type Lane } from './lanes';

export type { Key } from '../selected/selection';

export const keyId = (key: Key) => `${key.lane}@${key.at}`;

export function sameKey(a: Key, b: Key): boolean {
  return a.lane === b.lane && a.at === b.at;
}

export function withKey(keys: Key[], key: Key): Key[] {
  return keys.some((k) => sameKey(k, key)) ? keys.filter((k) => !sameKey(k, key)) : [...keys, key];
}

/** How far keyframes are dragged: in frames or else samples, and along the lane's height. */
export interface Shift {
  frames?: number;
  samples?: number;
  share: number;
}

/** A sample moved by whole frames, as the server's clock does it. */
export function movedByFrames(clock: Clock, sample: number, frames: number): number {
  const frame = clock.frameOfSample(sample);
  const rest = sample - clock.sampleOfFrame(frame);
  return clock.sampleOfFrame(frame + frames) + rest;
}

/** The shift that takes a sample of the reel to another: by frames where it lies on one. */
export function shiftTo(clock: Clock, from: number, to: number, share: number): Shift {
  return { ...shiftOf(clock, from, to), share };
}

export function shifted(clock: Clock, lane: Lane, point: Keyframe, by: Shift): Keyframe {
  let place = lane.origin + point.at;
  if (by.frames !== undefined) place = movedByFrames(clock, place, by.frames);
  place += by.samples ?? 0;
  const value = by.share ? valueIn(lane, shareIn(lane, point.value) + by.share) : point.value;
  return { ...point, at: place - lane.origin, value };
}

/** A lane's points with the selected ones shifted; others that they land on give way. */
export function withShift(clock: Clock, lane: Lane, keys: Key[], by: Shift): Keyframe[] {
  const own = new Set(keys.filter((k) => k.lane === lane.name).map((k) => k.at));
  const moved = lane.points.filter((p) => own.has(p.at)).map((p) => shifted(clock, lane, p, by));
  const places = new Set(moved.map((p) => p.at));
  const rest = lane.points.filter((p) => !own.has(p.at) && !places.has(p.at));
  return [...rest, ...moved].sort((a, b) => a.at - b.at);
}
