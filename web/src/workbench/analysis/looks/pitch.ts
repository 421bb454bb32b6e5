/** The note that is sung or spoken. */
import { valueOf } from '../tiles';
import { drawLine } from './lines';
import type { Look } from './look';
import { figure } from '../../values/values';

/** From A1 to E6, which is what is looked for. */
const LOWEST = 33;
const HIGHEST = 88;
const NAMES = ['C', 'C♯', 'D', 'D♯', 'E', 'F', 'F♯', 'G', 'G♯', 'A', 'A♯', 'B'];
/** A leap of more semitones from one column to the next is another note. */
const LEAP = 4;

const share = (note: number) => (note - LOWEST) / (HIGHEST - LOWEST);

/** “A3 +12 ct”. */
export function noteText(note: number): string {
  const whole = Math.round(note);
  const cents = Math.round(100 * (note - whole));
  const name = `${NAMES[((whole % 12) + 12) % 12]}${Math.floor(whole / 12) - 1}`;
  return cents === 0 ? name : `${name} ${cents > 0 ? '+' : '−'}${Math.abs(cents)} ct`;
}

export const pitch: Look = {
  over: true,
  difference: false,
  dark: false,
  ticks: () => [36, 48, 60, 72, 84].map((note) => ({ share: share(note), text: noteText(note) })),
  paint: ({ g, box, inks, after, before }) => {
    if (before) drawLine(g, box, { strip: before, row: 0, share, ink: inks.soft, apart: LEAP });
    if (after)
      drawLine(g, box, { strip: after, row: 0, share, ink: inks.main, width: 2, apart: LEAP });
  },
  read: (p, column) => {
    const strip = p.after ?? p.before;
    const note = strip && valueOf(strip, column, 0);
    if (note === undefined) return 'no pitch';
    return `${noteText(note)} · ${figure(440 * 2 ** ((note - 69) / 12))} Hz`;
  },
};
