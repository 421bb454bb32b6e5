/** From files of one's own to a reel: upload, wait until they are prepared, lay them out. */
import { client, Refusal, unwrap, type MediaLine } from '../api/client';
import { transfer, type Transfer } from '../api/uploads';
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
  const send = async (commands: Command[]) => {
    const change = await unwrap(
      client.POST('/api/reels/{id}/edits', {
        params: { path: { id: reel.id } },
        body: { edit_id: crypto.randomUUID(), base: revision, commands },
      }),
    );
    revision = change.revision;
  };
  await send(media.map((line) => layFile(line, line === film)));
  // A picture that is still being prepared gets its cuts from the server, once they are found.
  const cuts = film && (await isReady(film.id)) && (await foundCuts(reel.id));
  if (cuts) await send([cuts]);
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

/** The command that lays a file which has come in; of one that was chosen as a sound, its sound. */
export function layFile(line: MediaLine, withPicture = true): Command {
  const seen = withPicture ? pictureOf(line) : undefined;
  return {
    kind: 'lay_file',
    media: line.id,
    path: line.name,
    track: newId('t'),
    clip: newId('c'),
    ...(seen && { picture_frames: seen.frames }),
    ...(line.info.sound && { sound: soundOf(line) }),
  };
}

/** How long a medium's sound is, as commands take it. */
export function soundOf(line: MediaLine) {
  const { samples, starts } = line.info.sound!;
  return { samples, starts, rate: line.rate };
}
