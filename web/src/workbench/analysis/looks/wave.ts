/** The waveform as it comes out. */
import { valueOf } from '../tiles';
import { eachColumn, type Look, type Painting } from './look';
import { figure } from '../../values/values';
import type { Strip } from '../tiles';

const LOW = 0;
const HIGH = 1;
const RMS = 2;

function fill(p: Painting, strip: Strip, ink: string, inner: boolean) {
  const { g, box } = p;
  const y = (value: number) =>
    box.top + box.height * (0.5 - 0.48 * Math.max(-1.04, Math.min(1.04, value)));
  const wide = Math.max(1, strip.each / box.scale);
  g.fillStyle = ink;
  eachColumn(strip, box, (x, column) => {
    const [low, high, rms] = [LOW, HIGH, RMS].map((row) => valueOf(strip, column, row));
    if (low === undefined || high === undefined || rms === undefined) return;
    g.globalAlpha = inner ? 0.55 : 1;
    g.fillRect(x - wide / 2, y(high), wide, Math.max(1, y(low) - y(high)));
    g.globalAlpha = 1;
    if (inner) g.fillRect(x - wide / 2, y(rms), wide, Math.max(0, y(-rms) - y(rms)));
    if (high > 1 || low < -1) {
      g.fillStyle = p.inks.moves;
      g.fillRect(x - wide / 2, high > 1 ? box.top : box.top + box.height - 3, Math.max(2, wide), 3);
      g.fillStyle = ink;
    }
  });
}

export const wave: Look = {
  over: true,
  difference: false,
  dark: false,
  ticks: () =>
    [1, 0.5, 0, -0.5, -1].map((v) => ({
      share: 0.5 + 0.48 * v,
      text: v === 0 ? '0' : Math.abs(v) === 1 ? '0 dB' : '−6',
    })),
  paint: (p) => {
    if (p.before) fill(p, p.before, p.inks.soft, false);
    if (p.after) fill(p, p.after, p.inks.main, true);
  },
  read: (p, column) => {
    const strip = p.after ?? p.before;
    const db = (v: number | undefined) => (v ? figure(20 * Math.log10(Math.abs(v))) : '—');
    const [low, high, rms] = [LOW, HIGH, RMS].map((r) => strip && valueOf(strip, column, r));
    const peak = Math.max(Math.abs(low ?? 0), Math.abs(high ?? 0));
    return `peak ${db(peak)} dBFS · RMS ${db(rms)} dB`;
  },
};
