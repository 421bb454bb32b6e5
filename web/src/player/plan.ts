/** What sound to ask for next: pure rules over what is wanted and what is held. */
import type { Side } from './messages';
import { PARTS } from './shelf';

export interface Want {
  side: Side;
  /** Sample at the playhead. */
  position: number;
  playing: boolean;
  loop: { start: number; end: number } | undefined;
}

export interface Ask {
  side: Side;
  index: number;
  /** A fifth of the block, at once; the whole block if there is none. */
  part: number | undefined;
}

/** Blocks that are held ready beyond the one that is played. */
const AHEAD = 4;
const PAUSED_AHEAD = 1;
/** A part is asked for before the playhead has come to its last so many of its length. */
const EARLY = 0.5;

/** Blocks from the playhead on, in the order in which they will be played. */
export function upcoming(want: Want, grid: number, length: number): number[] {
  const last = Math.ceil(length / grid) - 1;
  const first = Math.floor(want.position / grid);
  const count = 1 + (want.playing ? AHEAD : PAUSED_AHEAD);
  const order: number[] = [];
  const { loop } = want;
  const loopLast = loop ? Math.min(last, Math.floor((loop.end - 1) / grid)) : last;
  const add = (from: number, to: number) => {
    for (let i = Math.max(0, from); i <= to && order.length < count; i++)
      if (!order.includes(i)) order.push(i);
  };
  if (!loop || want.position >= loop.end) {
    if (loop) add(Math.floor(loop.start / grid), loopLast);
    else add(first, last);
    return order;
  }
  add(first, loopLast);
  // What comes after the wrap: the loop's beginning.
  if (want.playing || order.length < count) add(Math.floor(loop.start / grid), loopLast);
  return order;
}

/**
 * What is to be asked for, the most urgent first.
 *
 * `fresh` says whether a block, or a part of one, is held and known to be right.
 */
export function wanted(
  want: Want,
  grid: number,
  length: number,
  provisional: boolean,
  fresh: (ask: Ask) => boolean,
): Ask[] {
  const { side } = want;
  const order = upcoming(want, grid, length);
  const asks: Ask[] = [];
  const here = order[0];
  if (here !== undefined && !fresh({ side, index: here, part: undefined })) {
    const share = ((Math.max(want.position, here * grid) - here * grid) / grid) * PARTS;
    const part = Math.min(PARTS - 1, Math.floor(share));
    asks.push({ side, index: here, part });
    // The rest of the block may take longer than this part lasts.
    if (share - part > EARLY) {
      const next = part + 1 < PARTS ? here : order[1];
      if (next !== undefined) asks.push({ side, index: next, part: (part + 1) % PARTS });
    }
  }
  for (const index of order) asks.push({ side, index, part: undefined });
  if (!provisional) {
    const other: Side = side === 'treated' ? 'untreated' : 'treated';
    for (const index of order.slice(0, 2)) asks.push({ side: other, index, part: undefined });
  }
  return asks.filter((ask) => !fresh(ask));
}
