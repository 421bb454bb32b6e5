/** Painting an analysis: one side, both above each other, or both over each other. */
import { cssOf, LEVELS } from './colours';
import { LOOKS } from './looks';
import type { Box, Inks, KindTable, Look, Painting } from './looks/look';
import type { Open, Shown } from './opened';
import type { Strip } from './tiles';

export interface Source {
  kind: KindTable;
  shown: Shown;
  after: Strip | undefined;
  before: Strip | undefined;
  target: number | undefined;
}

const GAP = 2;
/** Where it says which side is which: beside the values of the axis. */
const NAMES_PX = 46;
/** What labels take at the left edge. */
export const LABELS_PX = 92;
const PALE = 'rgb(244 250 251 / 0.92)';

/** Which sides have to be known for how it is shown. */
export function sidesIn({ sides }: Pick<Open, 'sides'>, look: Look) {
  const both = sides === 'both' || (sides === 'difference' && look.difference);
  return { after: sides !== 'before', before: both || sides === 'before' };
}

/** The part of a picture that a share of its height lies in, and the share of that part. */
export function paintingOf(source: Source, share: number): { painting: Painting; within: number } {
  const look = LOOKS[source.kind.id]!;
  const painting = { ...source } as Painting;
  if (!isSplit(source, look)) return { painting, within: share };
  const upper = share >= 0.5;
  return {
    painting: { ...painting, [upper ? 'before' : 'after']: undefined },
    within: Math.min(1, Math.max(0, upper ? 2 * share - 1 : 2 * share)),
  };
}

function isSplit({ shown, after, before }: Source, look: Look): boolean {
  return shown.sides === 'both' && !look.over && after !== undefined && before !== undefined;
}

/** A part of what is seen: one side, or both over each other. */
interface Part {
  painting: Painting;
  look: Look;
  name: string;
  /** What is written on it, and on what ground. */
  ink: string;
  ground: string;
}

function partsOf(g: CanvasRenderingContext2D, box: Box, inks: Inks, source: Source): Part[] {
  const look = LOOKS[source.kind.id]!;
  const dark = look.dark && source.shown.sides !== 'difference';
  const colours = dark
    ? { ink: PALE, ground: cssOf(LEVELS[0]!) }
    : { ink: inks.ink, ground: inks.paper };
  const common = { g, inks, ...source };
  if (!isSplit(source, look)) return [{ painting: { ...common, box }, look, name: '', ...colours }];
  const height = (box.height - GAP) / 2;
  const upper = { ...common, box: { ...box, height }, before: undefined };
  const top = box.top + height + GAP;
  const lower = { ...common, box: { ...box, height, top }, after: undefined };
  return [
    { painting: upper, look, name: 'after', ...colours },
    { painting: lower, look, name: 'before', ...colours },
  ];
}

export function paintSides(g: CanvasRenderingContext2D, box: Box, inks: Inks, source: Source) {
  g.fillStyle = inks.paper;
  g.fillRect(0, box.top, box.width, box.height);
  for (const { painting, look, ink, ground } of partsOf(g, box, inks, source)) {
    const part = painting.box;
    g.fillStyle = ground;
    g.fillRect(0, part.top, part.width, part.height);
    look.paint(painting);
    g.strokeStyle = ink;
    g.lineWidth = 1;
    g.globalAlpha = 0.15;
    g.beginPath();
    for (const { share } of look.ticks(painting)) {
      const y = Math.round(part.top + part.height * (1 - share)) + 0.5;
      g.moveTo(0, y);
      g.lineTo(part.width, y);
    }
    g.stroke();
    g.globalAlpha = 1;
  }
}

/** The values of the axis, and which side is which. */
export function labelSides(g: CanvasRenderingContext2D, box: Box, inks: Inks, source: Source) {
  g.font = `10px ${inks.numbers}`;
  g.textBaseline = 'middle';
  for (const { painting, look, name, ink, ground } of partsOf(g, box, inks, source)) {
    const { top, height } = painting.box;
    let last = Infinity;
    for (const { share, text } of look.ticks(painting)) {
      const y = top + height * (1 - share);
      // Those that would lie on each other are left out.
      if (Math.abs(last - y) < 12 || y < top + 5 || y > top + height - 5) continue;
      last = y;
      write(g, text, 3, y, ink, ground);
    }
    if (name) write(g, name, NAMES_PX, top + 9, ink, ground);
  }
}

/** A word on a ground of its own, so that it can be read on anything. */
export function write(
  g: CanvasRenderingContext2D,
  text: string,
  x: number,
  y: number,
  ink: string,
  ground: string,
) {
  const { width } = g.measureText(text);
  g.fillStyle = ground;
  g.globalAlpha = 0.72;
  g.fillRect(x - 2, y - 6, width + 4, 12);
  g.globalAlpha = 1;
  g.fillStyle = ink;
  g.fillText(text, x, y + 0.5);
}
