/** One analysis as it is painted, read and written as a table, whatever it is of. */
import type { Box, Inks } from './looks/look';

export interface Picture {
  paint: (g: CanvasRenderingContext2D, box: Box, inks: Inks) => void;
  /** What stands beside it, over everything: the values of its axis. */
  label: (g: CanvasRenderingContext2D, box: Box, inks: Inks) => void;
  /** What stands at a sample and, from the bottom, at a share of the height. */
  read: (sample: number, share: number) => string;
  /** Steps of the keys: samples along, and how many up. */
  each: number;
  rows: number;
  /** A table of what a box shows, line by line. */
  table: (box: Box) => (string | number)[][];
  /** How much of a box has come, from 0 to 1; if it does not come, why. */
  share: (box: Box) => number;
  trouble: string;
}
