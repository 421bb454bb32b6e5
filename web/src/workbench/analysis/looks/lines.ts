/** Values as lines over time. */
import type { Strip } from '../tiles';
import { valueOf } from '../tiles';
import { eachColumn, type Box } from './look';

interface Line {
  strip: Strip;
  row: number;
  /** Share of the height, from the bottom, of a value. */
  share: (value: number) => number;
  ink: string;
  width?: number;
  dash?: number[];
  /** A step between values larger than this is no line. */
  apart?: number;
}

export function drawLine(g: CanvasRenderingContext2D, box: Box, line: Line) {
  g.save();
  g.strokeStyle = line.ink;
  g.lineWidth = line.width ?? 1.5;
  g.lineJoin = 'round';
  g.setLineDash(line.dash ?? []);
  g.beginPath();
  let before: number | undefined;
  eachColumn(line.strip, box, (x, column) => {
    const value = valueOf(line.strip, column, line.row);
    if (value === undefined) {
      before = undefined;
      return;
    }
    const y = box.top + box.height * (1 - Math.min(1, Math.max(0, line.share(value))));
    const near = before !== undefined && Math.abs(value - before) <= (line.apart ?? Infinity);
    if (near) g.lineTo(x, y);
    else {
      // A value by itself is seen as a dot.
      g.moveTo(x - 0.5, y);
      g.lineTo(x + 0.5, y);
    }
    before = value;
  });
  g.stroke();
  g.restore();
}
