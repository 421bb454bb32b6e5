/** Which frequencies sound over time. */
import { valueOf } from '../tiles';
import { paintColoured } from './coloured';
import type { Look, Painting } from './look';
import { figure } from '../../values/values';

const MARKED_HZ = [50, 100, 200, 500, 1000, 2000, 5000, 10000, 20000];

/** Middles of the rows in Hz. */
export function rowsOf(p: Pick<Painting, 'kind' | 'shown'>): number[] {
  return (p.kind.rows[p.shown.axis] ?? []) as number[];
}

/** From the bottom, the share of the height at which a frequency lies. */
export function shareOf(rows: number[], hz: number): number | undefined {
  const above = rows.findIndex((row) => row >= hz);
  if (above <= 0) return undefined;
  const [low, high] = [rows[above - 1]!, rows[above]!];
  return (above - 0.5 + (hz - low) / (high - low)) / rows.length;
}

export function hzText(hz: number): string {
  return hz >= 1000 ? `${Number((hz / 1000).toPrecision(3))} kHz` : `${Math.round(hz)} Hz`;
}

export const spectrum: Look = {
  over: false,
  difference: true,
  dark: true,
  ticks: (p) => {
    const rows = rowsOf(p);
    return MARKED_HZ.flatMap((hz) => {
      const share = shareOf(rows, hz);
      return share === undefined ? [] : { share, text: hz >= 1000 ? `${hz / 1000}k` : `${hz}` };
    });
  },
  paint: (p) => paintColoured(p, rowsOf(p).length),
  read: (p, column, share) => {
    const rows = rowsOf(p);
    const row = Math.min(rows.length - 1, Math.floor(share * rows.length));
    const strip = p.after ?? p.before;
    const level = strip && valueOf(strip, column, row);
    return `${hzText(rows[row]!)} · ${figure(level)} dB`;
  },
};
