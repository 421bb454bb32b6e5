/** What of a reel is about to be played. */
import { PARTS } from '../player/shelf';
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
