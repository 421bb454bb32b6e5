/** Levels as colours: rows from the bottom up, columns over time. */
import { DIFFERENCES, LEVELS, shade } from '../colours';
import { COLUMNS } from '../steps';
import { MISSING, type Strip, type Tile } from '../tiles';
import type { Painting } from './look';

/** dB at which a difference has its full colour. */
export const MOST_APART_DB = 18;

interface Drawn {
  how: string;
  /** What it is the difference from. */
  other: Tile | undefined;
  canvas: OffscreenCanvas;
}

const known = new WeakMap<Tile, Drawn>();

/** Colour `rows` of a box's strip. */
export function paintColoured(p: Painting, rows: number) {
  const { g, box, shown, after, before } = p;
  const strip = after ?? before;
  if (!strip) return;
  const apart = shown.sides === 'difference' ? before : undefined;
  const per = strip.each * COLUMNS;
  const first = Math.max(0, Math.floor(box.start / per));
  const last = Math.floor((box.start + box.width * box.scale) / per);
  g.imageSmoothingEnabled = true;
  g.imageSmoothingQuality = 'medium';
  for (let index = first; index <= last; index++) {
    const tile = strip.tile(index);
    const other = apart?.tile(index);
    if (!tile || (apart && !other)) continue;
    const canvas = coloured(tile, strip, rows, p, other);
    const x = (index * per - box.start) / box.scale;
    g.drawImage(canvas, x, box.top, per / box.scale, box.height);
  }
}

function coloured(tile: Tile, strip: Strip, rows: number, p: Painting, other: Tile | undefined) {
  const { top, span } = p.shown;
  const how = `${top} ${span} ${rows}`;
  const drawn = known.get(tile);
  if (drawn?.how === how && drawn.other === other) return drawn.canvas;
  const canvas = new OffscreenCanvas(COLUMNS, rows);
  const g = canvas.getContext('2d')!;
  const image = g.createImageData(COLUMNS, rows);
  const pixels = new Uint32Array(image.data.buffer);
  for (let k = 0; k < COLUMNS; k++) {
    for (let row = 0; row < rows; row++) {
      const value = tile.values[k * strip.rows + row]!;
      if (value === MISSING) continue;
      const level = value / strip.fraction;
      let pixel = shade(LEVELS, (level - (top - span)) / span);
      if (other) {
        const theirs = other.values[k * strip.rows + row]!;
        const least = top - span;
        const more = Math.max(least, level) - Math.max(least, theirs / strip.fraction);
        pixel = shade(DIFFERENCES, 0.5 + (0.5 * more) / MOST_APART_DB);
      }
      pixels[(rows - 1 - row) * COLUMNS + k] = pixel;
    }
  }
  g.putImageData(image, 0, 0);
  known.set(tile, { how, other, canvas });
  return canvas;
}
