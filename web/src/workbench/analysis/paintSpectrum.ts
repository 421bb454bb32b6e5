/** Painting a spectrum: levels over frequency. */
import type { Inks } from './looks/look';
import { figure } from '../values/values';
import { shareOf } from './looks/spectrum';
import { write } from './paint';

const TOP_DB = 0;
const SPAN_DB = 110;
const MARKED_HZ = [50, 100, 200, 500, 1000, 2000, 5000, 10000];
const MARKED_DB = [-20, -40, -60, -80, -100];

export interface Curves {
  rows: number[];
  now: (number | undefined)[];
  after: number[];
  before: number[];
}

/** A canvas in the size of the screen's own dots, cleared. */
export function sized(element: HTMLCanvasElement | null, width: number, height: number) {
  const g = element?.getContext('2d');
  if (!element || !g || width < 1) return undefined;
  const ratio = window.devicePixelRatio || 1;
  element.width = Math.round(width * ratio);
  element.height = Math.round(height * ratio);
  g.scale(ratio, ratio);
  return g;
}

const placeOf = (count: number, width: number) => (index: number) =>
  ((index + 0.5) / count) * width;
const levelOf = (height: number) => (db: number) =>
  Math.min(height, Math.max(0, ((TOP_DB - db) / SPAN_DB) * height));

/** What stands at the playhead, as an area. */
export function paintNow(
  g: CanvasRenderingContext2D,
  width: number,
  height: number,
  ink: string,
  levels: (number | undefined)[],
) {
  if (!levels.length) return;
  const x = placeOf(levels.length, width);
  const y = levelOf(height);
  g.fillStyle = ink;
  g.globalAlpha = 0.28;
  g.beginPath();
  g.moveTo(0, height);
  levels.forEach((db, i) => g.lineTo(x(i), y(db ?? -200)));
  g.lineTo(width, height);
  g.fill();
  g.globalAlpha = 1;
}

export function paintStill(
  g: CanvasRenderingContext2D,
  width: number,
  height: number,
  inks: Inks,
  curves: Curves,
  row: number | undefined,
) {
  g.fillStyle = inks.paper;
  g.fillRect(0, 0, width, height);
  const { rows } = curves;
  if (!rows.length) return;
  const x = placeOf(rows.length, width);
  const y = levelOf(height);
  g.font = `10px ${inks.numbers}`;
  g.textBaseline = 'middle';
  g.lineWidth = 1;
  g.strokeStyle = inks.quiet;
  g.globalAlpha = 0.22;
  g.beginPath();
  for (const db of MARKED_DB) {
    g.moveTo(0, Math.round(y(db)) + 0.5);
    g.lineTo(width, Math.round(y(db)) + 0.5);
  }
  const marks = MARKED_HZ.flatMap((hz) => {
    const share = shareOf(rows, hz);
    return share === undefined ? [] : [{ hz, x: share * width }];
  });
  for (const mark of marks) {
    g.moveTo(Math.round(mark.x) + 0.5, 0);
    g.lineTo(Math.round(mark.x) + 0.5, height);
  }
  g.stroke();
  g.globalAlpha = 1;
  const line = (levels: (number | undefined)[], ink: string, wide: number, dash: number[]) => {
    g.strokeStyle = ink;
    g.lineWidth = wide;
    g.setLineDash(dash);
    g.beginPath();
    let drawing = false;
    levels.forEach((db, i) => {
      if (db === undefined) {
        drawing = false;
        return;
      }
      if (drawing) g.lineTo(x(i), y(db));
      else g.moveTo(x(i), y(db));
      drawing = true;
    });
    g.stroke();
    g.setLineDash([]);
  };
  line(curves.before, inks.soft, 1.5, [4, 3]);
  line(curves.after, inks.main, 1.8, []);
  for (const db of MARKED_DB) write(g, figure(db, 0), 3, y(db), inks.ink, inks.paper);
  for (const mark of marks)
    if (mark.x < width - 18)
      write(
        g,
        mark.hz >= 1000 ? `${mark.hz / 1000}k` : `${mark.hz}`,
        mark.x - 7,
        height - 8,
        inks.ink,
        inks.paper,
      );
  if (row !== undefined) {
    g.fillStyle = inks.moves;
    g.fillRect(x(row), 0, 1, height);
  }
}
