/** Keeping what is in view: as a picture, or as a table. */
import { useSession } from '../../reel/session';
import { download } from '../../ui/download';
import type { Box, Inks } from './looks/look';
import { write } from './paint';
import type { Picture } from './picture';

const WAIT_MS = 100;
const LONGEST_MS = 30_000;
const FACTOR = 2;
const TITLE = 22;

/** Wait for what is in view; half of it is kept for nobody. */
async function whole(picture: Picture, box: Box, look: () => void): Promise<boolean> {
  const until = performance.now() + LONGEST_MS;
  for (;;) {
    look();
    if (picture.share(box) === 1) return true;
    if (performance.now() > until) {
      useSession
        .getState()
        .tell('Not all of what is in view could be worked out in time: try again, or zoom in.');
      return false;
    }
    await new Promise((done) => setTimeout(done, WAIT_MS));
  }
}

/** Twice as fine as on the screen, with a title. */
export async function saveImage(name: string, picture: Picture, box: Box, inks: Inks) {
  const canvas = document.createElement('canvas');
  canvas.width = Math.round(box.width * FACTOR);
  canvas.height = Math.round((box.height + TITLE) * FACTOR);
  const g = canvas.getContext('2d');
  if (!g) return;
  const below = { ...box, top: TITLE };
  g.scale(FACTOR, FACTOR);
  if (!(await whole(picture, box, () => picture.paint(g, below, inks)))) return;
  picture.label(g, below, inks);
  g.fillStyle = inks.paper;
  g.fillRect(0, 0, box.width, TITLE);
  g.font = `12px ${inks.numbers}`;
  g.textBaseline = 'middle';
  write(g, name, 4, TITLE / 2, inks.ink, inks.paper);
  canvas.toBlob((blob) => blob && download(`${name}.png`, blob), 'image/png');
}

export async function saveTable(name: string, picture: Picture, box: Box) {
  if (!(await whole(picture, box, () => picture.table(box)))) return;
  const text = picture
    .table(box)
    .map((line) => line.map(cell).join(','))
    .join('\r\n');
  download(`${name}.csv`, new Blob([`${text}\r\n`], { type: 'text/csv;charset=utf-8' }));
}

/** As RFC 4180 has it. */
function cell(value: string | number): string {
  const text = String(value);
  return /[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
}
