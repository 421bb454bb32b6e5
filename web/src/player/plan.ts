/** What sound to ask for next: pure rules over what is wanted and what is held. */
import type { Heard, Side } from './messages';

export interface Want {
  side: Heard;
  /** Sample at the playhead. */
  position: number;
  playing: boolean;
  loop: { start: number; end: number } | undefined;
}

/** First sample of a piece within its block, as the server has it. */
export function edgeOf(piece: number, grid: number): number {
  return Math.floor((grid * piece) / PIECES);
}

export interface Ask {
  side: Side;
  index: number;
  /** A fifth of the block, at once; the whole block if there is none. */
  part: number | undefined;
  /** How many of them; one if it is not said. */
  parts?: number;
}

/** Pieces of a block that can be asked for one by one. */
export const PIECES = 5;
/** Blocks that are held ready beyond the one that is played. */
const AHEAD = 4;
/** The same while they take long to come: there is more to live on when one is late. */
export const FAR_AHEAD = 12;
const PAUSED_AHEAD = 1;

/** Blocks from the playhead on, in the order in which they will be played. */
export function upcoming(want: Want, grid: number, length: number, ahead = AHEAD): number[] {
  const last = Math.ceil(length / grid) - 1;
  const first = Math.floor(want.position / grid);
  const count = 1 + (want.playing ? ahead : PAUSED_AHEAD);
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
 * `fresh` says whether a block, or a part of one, is held and known to be right; `most` how many
 * parts come in well less time than one of them lasts; `ahead` how many blocks are held ready.
 */
export function wanted(
  want: Want,
  grid: number,
  length: number,
  provisional: boolean,
  fresh: (ask: Ask) => boolean,
  most = 1,
  ahead = AHEAD,
): Ask[] {
  const order = upcoming(want, grid, length, ahead);
  const asks: Ask[] = [];
  const here = order[0];
  // A difference needs both sides in step; its sound may wait for whole seconds.
  if (want.side === 'difference') {
    for (const index of order)
      for (const side of ['treated', 'other'] as const) asks.push({ side, index, part: undefined });
    return asks.filter((ask) => !fresh(ask));
  }
  const { side } = want;
  const whole = (index: number): Ask => ({ side, index, part: undefined });
  // Of a draft the hand's own questions bring what is heard at once.
  if (!provisional && here !== undefined && !fresh(whole(here))) {
    const share = ((Math.max(want.position, here * grid) - here * grid) / grid) * PIECES;
    const part = Math.min(PIECES - 1, Math.floor(share));
    asks.push({ side, index: here, part }, whole(here));
    // The whole may take longer than this piece lasts.
    const next = part + 1 < PIECES ? here : order[1];
    const from = (part + 1) % PIECES;
    const parts = Math.min(most, PIECES - from);
    if (next !== undefined)
      asks.push({ side, index: next, part: from, ...(parts > 1 && { parts }) });
  }
  for (const index of order)
    if (!asks.some((ask) => ask.index === index && ask.part === undefined)) asks.push(whole(index));
  if (!provisional) {
    const other: Side = side === 'treated' ? 'other' : 'treated';
    for (const index of order.slice(0, 2)) asks.push({ side: other, index, part: undefined });
  }
  return asks.filter((ask) => !fresh(ask));
}
