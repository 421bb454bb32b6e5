/**
 * The audio worklet: hands messages to the playback, and its samples to the audio graph.
 *
 * Output 0 is the sound. Output 1 carries, as numbers, which sample of the reel each of them is
 * (block index and offset; −1 while silent, fading or not exact), so that whatever listens can
 * align by time.
 */
import type { ToWorklet } from './messages';
import { Meter } from './meter';
import { Playback } from './playback';

const REPORT_EVERY = 1024;
/** The eye follows numbers no faster. */
const LEVELS_EVERY = 0.1;

class BlockPlayer extends AudioWorkletProcessor implements AudioWorkletProcessorImpl {
  private readonly playback: Playback;
  private sinceReport = 0;
  private supply: MessagePort | undefined;
  private readonly meter = new Meter(sampleRate);
  private sinceLevels = 0;
  private overs: number[] = [];

  constructor(options: { processorOptions: { grid: number } }) {
    super();
    this.playback = new Playback(options.processorOptions.grid, sampleRate);
    this.port.onmessage = (e: MessageEvent<ToWorklet>) => {
      if (e.data.type === 'port') this.listen(e.ports[0]!);
    };
  }

  process(_: Float32Array[][], outputs: Float32Array[][]): boolean {
    const [sound, where] = outputs as [Float32Array[], Float32Array[]];
    const left = sound[0]!;
    const right = sound[1] ?? new Float32Array(left.length);
    this.playback.fill(left, right, where?.[0], where?.[1]);
    this.measure(left, right);
    this.sinceReport += left.length;
    if (this.sinceReport >= REPORT_EVERY) this.report(left.length);
    return true;
  }

  /** Only what plays counts: a pause has no loudness. */
  private measure(left: Float32Array, right: Float32Array) {
    const at = this.playback.playsFrom;
    if (at === undefined) return;
    this.meter.add(left, right);
    this.sinceLevels += left.length;
    const passes = (x: number) => Math.abs(x) > 1;
    if (left.some(passes) || right.some(passes)) this.overs.push(at);
  }

  /** What there is to play comes from beside the page, and what the page says along with it. */
  private listen(supply: MessagePort) {
    this.supply = supply;
    supply.onmessage = ({ data }: MessageEvent<ToWorklet>) => {
      if (data.type === 'reset-meters') this.meter.reset();
      else if (this.playback.receive(data)) this.report(0);
    };
  }

  private report(ahead: number) {
    const report = this.playback.report(currentFrame + ahead);
    if (this.sinceLevels >= LEVELS_EVERY * sampleRate) {
      this.sinceLevels = 0;
      report.levels = this.meter.levels();
    }
    if (this.overs.length > 0) report.overs = this.overs;
    this.overs = [];
    this.port.postMessage(report);
    this.supply?.postMessage(report);
    this.sinceReport = 0;
  }
}

registerProcessor('block-player', BlockPlayer);
