/** One event stream for all windows of a browser: a server allows few connections at once. */
const scope = self as unknown as { onconnect: (e: MessageEvent) => void };
const ports = new Set<MessagePort>();
let source: EventSource | undefined;

function open() {
  source?.close();
  source = new EventSource('/api/events');
  source.onmessage = (e) => tell(e.data);
  source.onerror = () => tell('{"kind":"lost"}');
  source.onopen = () => tell('{"kind":"hello"}');
}

function tell(text: unknown) {
  for (const port of ports) port.postMessage(text);
}

scope.onconnect = (e: MessageEvent) => {
  const port = e.ports[0];
  if (!port) return;
  ports.add(port);
  port.onmessage = (m: MessageEvent) => {
    if (m.data === 'leave') ports.delete(port);
    if (m.data === 'again' && source?.readyState === 2) open();
  };
  if (!source || source.readyState === 2) open();
};
