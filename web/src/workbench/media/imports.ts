/** Files on their way into the open reel: several at once, each can be paused and cancelled. */
import { create } from 'zustand';
import { Refusal, type MediaLine } from '../../api/client';
import type { Transfer } from '../../api/uploads';
import { bringIn, foundCuts, isReady, layFile, pictureOf } from '../../reel/importing';
import { useSession } from '../../reel/session';
import type { Clock } from '../../time/clock';

export interface Incoming {
  key: string;
  name: string;
  text: string;
  share: number;
  paused: boolean;
  trouble: string;
}

interface Imports {
  files: Incoming[];
  set: (key: string, change: Partial<Incoming>) => void;
  drop: (key: string) => void;
}

const AT_ONCE = 2;

export const useImports = create<Imports>()((set) => ({
  files: [],
  set: (key, change) =>
    set((s) => ({ files: s.files.map((f) => (f.key === key ? { ...f, ...change } : f)) })),
  drop: (key) => set((s) => ({ files: s.files.filter((f) => f.key !== key) })),
}));

interface Job {
  key: string;
  file: File;
  stop: AbortController;
}

const waiting: Job[] = [];
const transfers = new Map<string, { sending?: Transfer; stop: AbortController }>();
let running = 0;

export function pause(key: string, paused: boolean) {
  const found = transfers.get(key)?.sending;
  if (!found) return;
  if (paused) found.pause();
  else found.resume();
  useImports.getState().set(key, { paused, text: paused ? 'Paused' : 'Uploading…' });
}

export function cancel(key: string) {
  transfers.get(key)?.stop.abort();
  const at = waiting.findIndex((j) => j.key === key);
  if (at >= 0) waiting.splice(at, 1);
  useImports.getState().drop(key);
}

/** Bring files into the open reel: each sound gets a track, the first picture becomes the reel's. */
export function bringInFiles(files: File[], clock: Clock, refresh: () => Promise<unknown>) {
  for (const file of files) {
    const key = crypto.randomUUID();
    const stop = new AbortController();
    waiting.push({ key, file, stop });
    transfers.set(key, { stop });
    useImports.setState((s) => ({
      files: [
        ...s.files,
        { key, name: file.name, text: 'Waiting', share: 0, paused: false, trouble: '' },
      ],
    }));
  }
  while (running < AT_ONCE && waiting.length) void work(clock, refresh);
}

async function work(clock: Clock, refresh: () => Promise<unknown>) {
  running++;
  try {
    for (let job = waiting.shift(); job; job = waiting.shift()) {
      const { key, file, stop } = job;
      const { set, drop } = useImports.getState();
      try {
        const line = await bringIn(
          file,
          clock.sampleRate,
          (step) => set(key, step),
          stop.signal,
          (sending) => transfers.set(key, { sending, stop }),
        );
        await refresh();
        await layIn(line);
        drop(key);
      } catch (error) {
        if (error instanceof Refusal && error.status === 0 && stop.signal.aborted) drop(key);
        else set(key, { trouble: (error as Error).message });
      } finally {
        transfers.delete(key);
      }
    }
  } finally {
    running--;
  }
}

async function layIn(line: MediaLine) {
  const { edit, id, document } = useSession.getState();
  const first = Boolean(pictureOf(line)) && !document?.picture?.clips?.length;
  await edit(layFile(line));
  // A picture that is still being prepared gets its cuts from the server, once they are found.
  const cuts = first && (await isReady(line.id)) && (await foundCuts(id));
  if (cuts) await edit(cuts);
}
