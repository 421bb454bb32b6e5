/** Uploads that go on after a lost connection or a reload, by the open tus protocol. */
import { Upload } from 'tus-js-client';
import { client, csrfToken, Refusal, refusal, unwrap, type MediaLine } from './client';

const PART_BYTES = 8 * 2 ** 20;
const RETRY_MS = [0, 500, 1000, 2000, 4000, 8000, 15_000, 30_000];

export interface Transfer<T = MediaLine> {
  /** What it has become, once all has arrived; a Refusal if it cannot. */
  done: Promise<T>;
  pause: () => void;
  resume: () => void;
  cancel: () => void;
}

/** Send one file; an interrupted upload of the same file goes on where it stopped. */
export function transfer(file: File, rate: number, progress: (share: number) => void): Transfer {
  return send(file, { rate: String(rate) }, progress, mediumOf);
}

/** Send a reel that was packed with its media; gives the id of the reel that it has become. */
export function transferArchive(file: File, progress: (share: number) => void): Transfer<string> {
  return send(file, { holds: 'archive' }, progress, madeOf);
}

/** Send a sound of one's own, with the folder that it lies in; gives its id. */
export function transferSound(file: File, rate: number, folder: string): Transfer<string> {
  return send(file, { rate: String(rate), holds: 'sound', folder }, () => undefined, madeOf);
}

function send<T>(
  file: File,
  said: Record<string, string>,
  progress: (share: number) => void,
  made: (url: string | null) => Promise<T>,
): Transfer<T> {
  let reject: (error: Refusal) => void = () => undefined;
  let sending: Upload;
  const done = new Promise<T>((resolve, refuse) => {
    reject = refuse;
    sending = new Upload(file, {
      endpoint: '/api/uploads',
      chunkSize: PART_BYTES,
      retryDelays: RETRY_MS,
      removeFingerprintOnSuccess: true,
      metadata: { filename: file.name, ...said },
      headers: { 'X-CSRFToken': csrfToken() },
      onProgress: (sent, all) => progress(all ? sent / all : 0),
      onShouldRetry: (error) => {
        const status = error.originalResponse?.getStatus() ?? 0;
        return status === 0 || status === 409 || status === 423 || status >= 500;
      },
      onError: (error) => refuse(asRefusal(error)),
      onSuccess: () => void made(sending.url).then(resolve, refuse),
    });
    void sending.findPreviousUploads().then((earlier) => {
      if (earlier[0]) sending.resumeFromPreviousUpload(earlier[0]);
      sending.start();
    });
  });
  return {
    done,
    pause: () => void sending.abort(false),
    resume: () => sending.start(),
    cancel: () => {
      void sending.abort(true).catch(() => undefined);
      reject(new Refusal('The upload was cancelled.', 0));
    },
  };
}

export interface UnfinishedUpload {
  id: string;
  name: string;
  size: number;
  /** Bytes that have arrived. */
  offset: number;
}

export async function unfinishedUploads(): Promise<UnfinishedUpload[]> {
  const answer = await fetch('/api/uploads');
  if (!answer.ok) return [];
  return ((await answer.json()) as { uploads: UnfinishedUpload[] }).uploads;
}

/** Throw away what has arrived of an upload. */
export async function forgetUpload(id: string): Promise<void> {
  await fetch(`/api/uploads/${id}`, {
    method: 'DELETE',
    headers: { 'X-CSRFToken': csrfToken() },
  });
}

async function mediumOf(url: string | null): Promise<MediaLine> {
  const answer = await fetch(url ?? '');
  const { media } = (await answer.json()) as { media: string | null };
  if (!media) throw new Refusal('The file has arrived, but the server did not take it in.', 0);
  return unwrap(client.GET('/api/media/{id}', { params: { path: { id: media } } }));
}

async function madeOf(url: string | null): Promise<string> {
  const answer = await fetch(url ?? '');
  const { made } = (await answer.json()) as { made: string | null };
  if (!made) throw new Refusal('The file has arrived, but the server did not take it in.', 0);
  return made;
}

function asRefusal(error: Error): Refusal {
  const answer = (error as { originalResponse?: { getStatus(): number; getBody(): string } | null })
    .originalResponse;
  if (!answer) return new Refusal('The connection to the server was lost.', 0);
  let body: unknown;
  try {
    body = JSON.parse(answer.getBody());
  } catch {
    body = undefined;
  }
  return refusal(body, answer.getStatus());
}
