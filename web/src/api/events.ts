/** What happens on the server: edits of other windows, jobs that move on. */

export type ServerEvent =
  | { kind: 'hello' }
  | { kind: 'lost' }
  | { kind: 'reel'; reel: string; revision: number }
  | { kind: 'media'; media: string; state: string; progress: number }
  | { kind: 'export'; export: string; reel: string };

type Listener = (event: ServerEvent) => void;

const listeners = new Set<Listener>();
let opened = false;

function hand(text: unknown) {
  const event = JSON.parse(String(text)) as ServerEvent;
  for (const listener of listeners) listener(event);
}

function open() {
  opened = true;
  if ('SharedWorker' in window) {
    const worker = new SharedWorker(new URL('./events.worker.ts', import.meta.url), {
      type: 'module',
      name: 'bathyphon-events',
    });
    worker.port.onmessage = (e) => hand(e.data);
    worker.port.start();
    window.addEventListener('pagehide', () => worker.port.postMessage('leave'));
    setInterval(() => worker.port.postMessage('again'), 5000);
    return;
  }
  const source = new EventSource('/api/events');
  source.onmessage = (e) => hand(e.data);
  source.onopen = () => hand('{"kind":"hello"}');
}

/** Listen; returns a function that stops listening. */
export function onEvent(listener: Listener): () => void {
  if (!opened) open();
  listeners.add(listener);
  return () => listeners.delete(listener);
}
