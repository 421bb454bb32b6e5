/**
 * The audio worklet: hands messages to the playback, and its samples to the audio graph.
 *
 * Output 0 is the sound. Output 1 carries, as numbers, which sample of the reel each of them is
 * (block index and offset; −1 while silent, fading or not exact), so that whatever listens can
 * align by time.
 */
import type { ToWorklet } from './messages';
import { Playback } from './playback';

const REPORT_EVERY = 1024;

class BlockPlayer extends AudioWorkletProcessor implements AudioWorkletProcessorImpl {
  private readonly playback: Playback;
  private sinceReport = 0;
  private hand: MessagePort | undefined;

  constructor(options: { processorOptions: { grid: number } }) {
    super();
    this.playback = new Playback(options.processorOptions.grid, sampleRate);
    this.port.onmessage = (e: MessageEvent<ToWorklet>) => {
      // Beside the page a hand's worker has a port of its own.
      if (e.data.type === 'port') this.listen(e.ports[0]!);
      else if (this.playback.receive(e.data)) this.report(0);
    };
  }

  process(_: Float32Array[][], outputs: Float32Array[][]): boolean {
    const [sound, where] = outputs as [Float32Array[], Float32Array[]];
    const left = sound[0]!;
    this.playback.fill(left, sound[1] ?? new Float32Array(left.length), where?.[0], where?.[1]);
    this.sinceReport += left.length;
    if (this.sinceReport >= REPORT_EVERY) this.report(left.length);
    return true;
  }

  private listen(hand: MessagePort) {
    this.hand = hand;
    hand.onmessage = (e: MessageEvent<ToWorklet>) => void this.playback.receive(e.data);
  }

  private report(ahead: number) {
    const report = this.playback.report(currentFrame + ahead);
    this.port.postMessage(report);
    this.hand?.postMessage(report);
    this.sinceReport = 0;
  }
}

registerProcessor('block-player', BlockPlayer);
