/**
 * The line to the server over which a hand asks: opened when it is first needed, and again whenever
 * it has been lost.
 */
export interface Frame {
  said: { number: number } & Record<string, unknown>;
  sound: Float32Array;
}

const AGAIN_MS = 500;
const HEAD = 4;

export class Line {
  private socket: WebSocket | undefined;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private closed = false;

  /**
   * @param address Of the server's end.
   * @param frame An answer has come, or a part of one.
   * @param ready Questions can be asked; what has been asked before will not be answered.
   */
  constructor(
    private readonly address: string,
    private readonly frame: (frame: Frame) => void,
    private readonly ready: () => void,
  ) {}

  /** Ask; false if there is no line yet: it is on its way then. */
  ask(question: object): boolean {
    if (this.socket?.readyState === WebSocket.OPEN) {
      this.socket.send(JSON.stringify(question));
      return true;
    }
    this.open();
    return false;
  }

  close() {
    this.closed = true;
    clearTimeout(this.timer);
    this.socket?.close();
  }

  private open() {
    if (this.socket || this.closed) return;
    const socket = new WebSocket(this.address);
    socket.binaryType = 'arraybuffer';
    socket.onopen = () => this.ready();
    socket.onmessage = (e: MessageEvent<ArrayBuffer>) => this.frame(frameOf(e.data));
    socket.onclose = () => {
      if (this.socket !== socket) return;
      this.timer = setTimeout(() => {
        this.socket = undefined;
        this.ready();
      }, AGAIN_MS);
    };
    this.socket = socket;
  }
}

/** Bytes of JSON, JSON, and planar sound. */
export function frameOf(data: ArrayBuffer): Frame {
  const words = new DataView(data).getUint32(0, true);
  const text = new TextDecoder().decode(new Uint8Array(data, HEAD, words));
  return {
    said: JSON.parse(text) as Frame['said'],
    sound: new Float32Array(data, HEAD + words),
  };
}
