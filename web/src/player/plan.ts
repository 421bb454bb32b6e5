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
/** What is missing within so many seconds of playing is asked for in pieces: a whole takes longer. */
const SOON_SECONDS = 0.5;

/** How it is asked. */
interface How {
  /** How many parts come in well less time than one of them lasts. */
  most?: number;
  /** How many blocks are held ready. */
  ahead?: number | undefined;
  /** Somebody has just gone there: no whole block has come yet. */
  begins?: boolean;
  /** Seconds in which a whole block has come of late. */
  took?: number;
}

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

/** What plays next: a playhead that stands behind the loop goes to its beginning. */
function playsFrom({ position, loop }: Want): number {
  return loop && position >= loop.end ? loop.start : position;
}

/** Blocks and their pieces that are played in so many seconds from the playhead on. */
export function piecesOf(
  want: Want,
  grid: number,
  length: number,
  seconds: number,
): [index: number, part: number][] {
  const { loop } = want;
  const position = playsFrom(want);
  const end = loop ? Math.min(loop.end, length) : length;
  const until = position + seconds * grid;
  const found = between(position, Math.min(until, end), grid);
  if (!loop || until <= end) return found;
  // What comes after the wrap.
  return [...found, ...between(loop.start, Math.min(loop.start + until - end, end), grid)];
}

/**
 * Blocks in the order in which they are to be asked for as a whole, if that takes so many seconds.
 *
 * What is over by then is of no use to whoever plays on, and comes last. Asked for first, it would
 * come too late each time, and nothing but pieces worked out in a hurry would be heard.
 */
function inTime(want: Want, order: readonly number[], grid: number, seconds: number): number[] {
  const { position, playing } = want;
  const over = (index: number) => {
    // What lies before the playhead comes after the loop's end.
    const left = (index + 1) * grid - position;
    return playing && left > 0 && left <= seconds * grid;
  };
  const [late, there] = [order.filter(over), order.filter((index) => !over(index))];
  return there.length > 0 ? [...there, ...late] : [...order];
}

function between(from: number, to: number, grid: number): [number, number][] {
  const found: [number, number][] = [];
  for (let index = Math.floor(from / grid); index * grid < to; index++)
    for (let part = 0; part < PIECES; part++) {
      const start = index * grid + edgeOf(part, grid);
      const stop = index * grid + edgeOf(part + 1, grid);
      if (stop > from && start < to) found.push([index, part]);
    }
  return found;
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
  how: How = {},
): Ask[] {
  const { ahead = AHEAD, begins = false, took = 0 } = how;
  const order = upcoming(want, grid, length, ahead);
  const asks: Ask[] = [];
  // A difference needs both sides in step; its sound may wait for whole seconds.
  if (want.side === 'difference') {
    for (const index of order)
      for (const side of ['treated', 'other'] as const) asks.push({ side, index, part: undefined });
    return asks.filter((ask) => !fresh(ask));
  }
  const { side } = want;
  const whole = (index: number): Ask => ({ side, index, part: undefined });
  // Of a draft the hand's own questions bring what is heard at once.
  const drafted = provisional && side === 'treated';
  if (!drafted) asks.push(...pieces(want, side, grid, length, fresh, how));
  const least = begins ? SOON_SECONDS : 1 / PIECES;
  asks.push(...inTime(want, order, grid, Math.max(took, least)).map(whole));
  if (!provisional) {
    const other: Side = side === 'treated' ? 'other' : 'treated';
    for (const index of order.slice(0, 2)) asks.push({ side: other, index, part: undefined });
  }
  return asks.filter((ask) => !fresh(ask));
}

/**
 * What is missing of what is played within a moment, in pieces that lie in one block each.
 *
 * What a piece costs is mostly to begin there: two come along where there is one to ask for.
 */
function pieces(
  want: Want,
  side: Side,
  grid: number,
  length: number,
  fresh: (ask: Ask) => boolean,
  { most = 1, begins }: How,
): Ask[] {
  const position = playsFrom(want);
  const here = Math.floor(position / grid);
  const ends = (here + 1) * grid - position <= grid / PIECES;
  // Before that the next second may still come as a whole, and exact; but not where one has just
  // gone: it would come after this one.
  const whole = fresh({ side, index: here, part: undefined });
  const further = want.playing && (begins || ends || whole);
  const asks: (Ask & { part: number; parts: number })[] = [];
  for (const [index, part] of piecesOf(want, grid, length, SOON_SECONDS)) {
    if (fresh({ side, index, part })) continue;
    if (!further && index !== here) continue;
    const known = asks.find((ask) => ask.index === index && ask.part <= part);
    if (known && part < known.part + known.parts) continue;
    if (known && part === known.part + known.parts) known.parts++;
    else asks.push({ side, index, part, parts: 1 });
  }
  return asks.map(({ parts, ...ask }) => {
    const together = Math.min(Math.max(parts, 2, most), PIECES - ask.part);
    return together > 1 ? { ...ask, parts: together } : ask;
  });
}

export function nameOf({ side, index, part }: Ask): string {
  return part === undefined ? `${side}/${index}` : `${side}/${index}/${part}`;
}

/** Names of all parts that are asked for together. */
export function partsOf({ side, index, part = 0, parts = 1 }: Ask): string[] {
  return Array.from({ length: parts }, (_, k) => nameOf({ side, index, part: part + k }));
}
