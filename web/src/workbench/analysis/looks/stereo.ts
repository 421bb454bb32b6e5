/** Where it sounds from, left at the bottom and right at the top, and how far both sides agree. */
import { valueOf } from '../tiles';
import { paintColoured } from './coloured';
import { eachColumn, type Look, type Painting } from './look';
import { figure } from '../../values/values';

/** The part of the height that the line of agreement takes. */
const LINE = 0.26;

const places = (p: Pick<Painting, 'kind' | 'shown'>) =>
  (p.kind.rows[p.shown.axis] ?? []) as number[];

function sideText(place: number): string {
  if (Math.abs(place) < 3) return 'middle';
  return `${Math.round(Math.abs(place))} % ${place < 0 ? 'left' : 'right'}`;
}

export const stereo: Look = {
  over: false,
  difference: false,
  dark: true,
  ticks: () => [
    { share: LINE + (1 - LINE) * 0.97, text: 'right' },
    { share: LINE + (1 - LINE) * 0.5, text: 'middle' },
    { share: LINE + (1 - LINE) * 0.03, text: 'left' },
    { share: LINE * 0.9, text: 'agree' },
    { share: LINE * 0.1, text: 'cancel' },
  ],
  paint: (p) => {
    const { g, box, inks } = p;
    const strip = p.after ?? p.before;
    if (!strip) return;
    const upper = { ...box, height: box.height * (1 - LINE) };
    paintColoured({ ...p, box: upper }, places(p).length);
    const top = box.top + upper.height;
    const height = box.height * LINE;
    g.fillStyle = inks.paper;
    g.fillRect(0, top, box.width, height);
    g.strokeStyle = inks.line;
    g.lineWidth = 1;
    g.beginPath();
    g.moveTo(0, top + height / 2);
    g.lineTo(box.width, top + height / 2);
    g.stroke();
    g.strokeStyle = inks.main;
    g.lineWidth = 1.5;
    g.beginPath();
    let drawing = false;
    eachColumn(strip, box, (x, column) => {
      const like = valueOf(strip, column, strip.rows - 1);
      if (like === undefined) {
        drawing = false;
        return;
      }
      const y = top + height * (0.5 - 0.45 * (like / 100));
      if (drawing) g.lineTo(x, y);
      else g.moveTo(x, y);
      drawing = true;
    });
    g.stroke();
  },
  read: (p, column, share) => {
    const strip = p.after ?? p.before;
    const rows = places(p);
    const like = strip && valueOf(strip, column, strip.rows - 1);
    const both = `correlation ${figure(like === undefined ? undefined : like / 100, 2)}`;
    if (share < LINE || !strip) return both;
    const row = Math.floor(((share - LINE) / (1 - LINE)) * rows.length);
    const at = Math.min(rows.length - 1, row);
    return `${sideText(rows[at]!)} · ${figure(valueOf(strip, column, at))} dB · ${both}`;
  },
};
