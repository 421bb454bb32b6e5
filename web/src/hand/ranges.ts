/** What of a reel is about to be played. */
import { PARTS } from '../player/shelf';
import type { Sound } from '../player/messages';
import type { Range } from './messages';

/**
 * Stretches of whole parts from a sample on, over the end of a loop to its beginning.
 *
 * @param at Sample at the playhead.
 * @param seconds How far ahead.
 * @param rate Samples a second, which are those of a block.
 */
export function comingUp(
  at: number,
  seconds: number,
  rate: number,
  loop: { start: number; end: number } | undefined,
): Range[] {
  const ahead = seconds * rate;
  const wraps = loop !== undefined && at < loop.end && at + ahead > loop.end;
  if (!wraps) return [parts(at, at + ahead, rate)];
  const over = at + ahead - loop.end;
  // A loop may be shorter than what is asked for ahead.
  const again = Math.min(loop.start + over, loop.end);
  return [parts(at, loop.end, rate), parts(loop.start, again, rate)];
}

/** The parts that hold a stretch. */
function parts(start: number, stop: number, rate: number): Range {
  return [edge(Math.floor(partAt(start, rate)), rate), edge(Math.ceil(partAt(stop, rate)), rate)];
}

function partAt(sample: number, rate: number): number {
  return (sample * PARTS) / rate;
}

function edge(part: number, rate: number): number {
  const block = Math.floor(part / PARTS);
  return block * rate + Math.floor((rate * (part - block * PARTS)) / PARTS);
}

/** Sound from a sample on. */
export interface Slice {
  start: number;
  sound: Sound;
}

/** All that was wanted: nothing is sent of what lies behind the end of the draft, and it is silent. */
export function slicesOf(
  wanted: Range[],
  parts: { start: number; samples: number }[],
  sound: Float32Array,
): Slice[] {
  let from = 0;
  const sent = new Map(
    parts.map(({ start, samples }) => {
      const sides = [0, samples].map((k) => sound.subarray(from + k, from + k + samples));
      from += 2 * samples;
      return [start, sides];
    }),
  );
  return wanted.map(([start, stop]) => {
    const sides = [0, 1].map((side) => {
      const whole = new Float32Array(stop - start);
      whole.set(sent.get(start)?.[side] ?? []);
      return whole;
    });
    return { start, sound: sides as Sound };
  });
}
