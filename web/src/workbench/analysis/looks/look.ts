/** What a kind of analysis looks like, and how it is read. */
import type { Schemas } from '../../../api/client';
import type { Shown } from '../opened';
import { columnAt, type Strip } from '../tiles';

export type KindTable = Schemas['KindSchema'];

/** A part of a canvas, and the stretch of the reel that it shows. */
export interface Box {
  top: number;
  width: number;
  height: number;
  /** First sample, and samples a pixel. */
  start: number;
  scale: number;
}

export interface Inks {
  ink: string;
  quiet: string;
  line: string;
  paper: string;
  main: string;
  soft: string;
  moves: string;
  numbers: string;
}

export interface Painting {
  g: CanvasRenderingContext2D;
  box: Box;
  inks: Inks;
  kind: KindTable;
  shown: Shown;
  after: Strip | undefined;
  before: Strip | undefined;
  /** Loudness that is asked for, LUFS. */
  target: number | undefined;
}

/** A line across, with what stands at it; `share` counts from the bottom. */
export interface Tick {
  share: number;
  text: string;
}

export interface Look {
  /** Whether both sides can lie over each other; else they are drawn one above the other. */
  over: boolean;
  /** Whether what one side has more than the other can be shown. */
  difference: boolean;
  /** Whether it is bright on dark, whatever the theme. */
  dark: boolean;
  ticks: (p: Painting) => Tick[];
  paint: (p: Painting) => void;
  /** What stands at a moment and, from the bottom, at a share of the height. */
  read: (p: Painting, column: Int16Array, share: number) => string;
}

/** Columns of a strip within a box: pixel of the middle, and the column. */
export function eachColumn(
  strip: Strip,
  box: Box,
  draw: (x: number, column: Int16Array | undefined) => void,
) {
  const first = Math.floor(box.start / strip.each) - 1;
  const last = Math.ceil((box.start + box.width * box.scale) / strip.each) + 1;
  for (let k = Math.max(0, first); k <= last; k++) {
    const middle = (k + 0.5) * strip.each;
    draw((middle - box.start) / box.scale, columnAt(strip, middle));
  }
}
