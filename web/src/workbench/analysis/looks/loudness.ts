/** Loudness over 0.4 s and 3 s, and the true peak. */
import { valueOf } from '../tiles';
import { drawLine } from './lines';
import type { Look } from './look';
import { figure } from '../../values/values';

const LOWEST = -60;
const HIGHEST = 3;
const MARKED = [-50, -40, -30, -23, -16, -10, 0];
const MOMENTARY = 0;
const SHORT_TERM = 1;
const PEAK = 2;

const share = (level: number) => (level - LOWEST) / (HIGHEST - LOWEST);

export const loudness: Look = {
  over: true,
  difference: false,
  dark: false,
  ticks: () => MARKED.map((level) => ({ share: share(level), text: figure(level, 0) })),
  paint: ({ g, box, inks, after, before, target }) => {
    if (target !== undefined) {
      const y = box.top + box.height * (1 - share(target));
      g.strokeStyle = inks.moves;
      g.setLineDash([2, 3]);
      g.beginPath();
      g.moveTo(0, y);
      g.lineTo(box.width, y);
      g.stroke();
      g.setLineDash([]);
    }
    for (const [strip, ink] of [
      [before, inks.soft],
      [after, inks.main],
    ] as const) {
      if (!strip) continue;
      const common = { strip, share, ink };
      g.globalAlpha = 0.5;
      drawLine(g, box, { ...common, row: PEAK, width: 1, dash: [1, 2] });
      drawLine(g, box, { ...common, row: MOMENTARY, width: 1 });
      g.globalAlpha = 1;
      drawLine(g, box, { ...common, row: SHORT_TERM, width: 2.2 });
    }
  },
  read: (p, column) => {
    const strip = p.after ?? p.before;
    const level = (row: number) => figure(strip && valueOf(strip, column, row));
    return `${level(MOMENTARY)} LUFS (0.4 s) · ${level(SHORT_TERM)} LUFS (3 s) · ${level(PEAK)} dBTP`;
  },
};
