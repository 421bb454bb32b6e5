/** From files of one's own to a reel: upload, wait until they are prepared, lay them out. */
import { client, Refusal, unwrap, type MediaLine } from '../api/client';
import { transfer, type Transfer } from '../api/uploads';
import { makeClock } from '../time/clock';
import { newId } from '../ui/ids';
import type { Command } from './session';

export const RATES = [
  { value: '24000/1001', label: '23.976' },
  { value: '24/1', label: '24' },
  { value: '25/1', label: '25' },
  { value: '30000/1001', label: '29.97' },
  { value: '30000/1001 drop', label: '29.97 drop-frame' },
  { value: '30/1', label: '30' },
  { value: '50/1', label: '50' },
  { value: '60000/1001', label: '59.94' },
  { value: '60/1', label: '60' },
];

export interface ImportStep {
  text: string;
  share: number;
}

interface Wanted {
  name: string;
  picture: File | null;
  sounds: File[];
  frameRate: string | undefined;
}

export const REEL_RATE = 48000;
const LOOK_MS = 400;

/** Make a reel of files; returns its id. */
export async function importFiles(
  wanted: Wanted,
  tell: (step: ImportStep) => void,
  signal: AbortSignal,
): Promise<string> {
  const files = [...(wanted.picture ? [wanted.picture] : []), ...wanted.sounds];
  const media: MediaLine[] = [];
  for (const file of files) media.push(await bringIn(file, REEL_RATE, tell, signal));
  const film = wanted.picture ? media[0] : undefined;
  const seen = film && pictureOf(film);
  if (wanted.picture && !seen)
    throw new Refusal(`“${wanted.picture.name}” holds no picture; choose it under Sounds.`, 422);

  const [frameRate, drop] = (wanted.frameRate ?? seen?.rate ?? '25/1').split(' ');
  const reel = await unwrap(
    client.POST('/api/reels', {
      body: {
        name: wanted.name,
        frame_rate: frameRate ?? '25/1',
        drop_frame: drop === 'drop',
        sample_rate: REEL_RATE,
        start_timecode: drop === 'drop' ? '00:00:00;00' : '00:00:00:00',
      },
    }),
  );
  let revision = 0;
  const send = async (command: Command) => {
    const change = await unwrap(
      client.POST('/api/reels/{id}/edits', {
        params: { path: { id: reel.id } },
        body: { edit_id: crypto.randomUUID(), base: revision, commands: [command] },
      }),
    );
    revision = change.revision;
  };
  for (const command of layOut(media, film, frameRate ?? '25/1')) await send(command);
  // A picture that is still being prepared gets its cuts from the server, once they are found.
  const cuts = film && (await isReady(film.id)) && (await foundCuts(reel.id));
  if (cuts) await send(cuts);
  return reel.id;
}

/** Rate and frames of a medium's picture, as soon as its file has been looked into. */
export function pictureOf(line: MediaLine): { rate: string; frames: number } | undefined {
  return line.info.picture ?? line.info.expected ?? undefined;
}

export async function isReady(media: string): Promise<boolean> {
  const line = await unwrap(client.GET('/api/media/{id}', { params: { path: { id: media } } }));
  return line.state === 'ready';
}

/** The command that puts in the cuts found in a reel's picture, if there are any. */
export async function foundCuts(reel: string): Promise<Command | undefined> {
  const found = await unwrap(
    client.GET('/api/reels/{id}/found', { params: { path: { id: reel } } }),
  );
  if (!found.cuts.length) return undefined;
  return { kind: 'set_cuts', by: 'finder', cuts: found.cuts };
}

/** Upload one file and wait until it can be laid out: a sound that can be heard, a picture whose
 * rate and length are known. */
export async function bringIn(
  file: File,
  rate: number,
  tell: (step: ImportStep) => void,
  signal: AbortSignal,
  begun?: (sending: Transfer) => void,
): Promise<MediaLine> {
  const sending = transfer(file, rate, (share) => tell({ text: `Uploading ${file.name}…`, share }));
  const stop = () => sending.cancel();
  signal.addEventListener('abort', stop);
  begun?.(sending);
  const sent = await sending.done.finally(() => signal.removeEventListener('abort', stop));
  for (;;) {
    if (signal.aborted) {
      await client.POST('/api/media/{id}/cancel', { params: { path: { id: sent.id } } });
      throw new Refusal('Cancelled.', 0);
    }
    const line = await unwrap(client.GET('/api/media/{id}', { params: { path: { id: sent.id } } }));
    const { sound, sounds, expected } = line.info;
    if (line.state === 'ready' || sound || (expected && sounds === 0)) return line;
    if (line.state === 'failed') throw new Refusal(line.error, 422);
    if (line.state === 'cancelled') throw new Refusal('Its preparation was stopped.', 422);
    tell({ text: `Preparing ${file.name}…`, share: line.progress });
    await new Promise((resolve) => setTimeout(resolve, LOOK_MS));
  }
}

/** The commands that put media into an empty reel: the picture, and a track for each sound. */
export function layOut(
  media: MediaLine[],
  film: MediaLine | undefined,
  frameRate: string,
): Command[] {
  const clock = makeClock(frameRate, REEL_RATE);
  const commands: Command[] = media.map((m) => ({
    kind: 'add_medium',
    medium: { id: m.id, path: m.name },
  }));
  const seen = film && pictureOf(film);
  if (seen) {
    const length = clock.sampleOfFrame(seen.frames);
    commands.push({
      kind: 'set_picture',
      clips: [{ media: film.id, start: 0, length, source_start: 0 }],
    });
  }
  for (const m of media) if (m.info.sound) commands.push(...soundTrack(m, m === film, REEL_RATE));
  return commands;
}

/** A track with one clip that holds all of a medium's sound. */
export function soundTrack(media: MediaLine, ofPicture: boolean, rate: number): Command[] {
  const sound = media.info.sound!;
  // Of another rate than the reel's it is converted, and then has as many samples.
  const samples = Math.ceil((sound.samples * rate) / media.rate);
  const starts = Math.round((sound.starts * rate) / media.rate);
  const track = newId('t');
  const name = ofPicture ? 'Picture sound' : media.name.replace(/\.[^.]+$/, '');
  return [
    { kind: 'add_track', track: { id: track, name, gain_db: 0, pan: 0 } },
    {
      kind: 'add_clip',
      track,
      clip: {
        id: newId('c'),
        media: media.id,
        name: media.name,
        // A sound that begins before the picture loses what nobody could see.
        start: ofPicture ? Math.max(0, starts) : 0,
        length: samples - (ofPicture ? Math.max(0, -starts) : 0),
        source_start: ofPicture ? Math.max(0, -starts) : 0,
        gain_db: 0,
      },
    },
  ];
}
