/**
 * Plays blocks of the reel, exactly sample by sample.
 *
 * Output 0 is the sound. Output 1 carries, as numbers, which sample of the reel each of them is
 * (block index and offset; −1 while silent), so that whatever listens can align by time.
 */
type Side = 'treated' | 'untreated';
type Sound = [Float32Array, Float32Array];

import { Stretcher } from './stretch';

const FADE = 240;
const SCRUB_SECONDS = 0.08;
const REPORT_EVERY = 1024;

class BlockPlayer extends AudioWorkletProcessor implements AudioWorkletProcessorImpl {
  private readonly grid: number;
  private readonly blocks: Record<Side, Map<number, Sound>> = {
    treated: new Map(),
    untreated: new Map(),
  };
  private side: Side = 'treated';
  private from: Side = 'treated';
  private sideFade = 0;
  private replaced: { index: number; sound: Sound; left: number } | undefined;
  private position = 0;
  private playing = false;
  private starving = false;
  private ended = false;
  private length = 0;
  private loop: { start: number; end: number } | undefined;
  private peaks: [number, number] = [0, 0];
  private sinceReport = 0;
  private speed = 1;
  private readonly stretcher = new Stretcher(sampleRate);
  /** Stretched sound that has been made and not been played. */
  private made: Sound | undefined;
  private madeAt = 0;
  private scrub: { from: number; at: number } | undefined;

  constructor(options: { processorOptions: { grid: number } }) {
    super();
    this.grid = options.processorOptions.grid;
    this.port.onmessage = (e: MessageEvent) => this.receive(e.data);
  }

  private receive(m: { type: string } & Record<string, unknown>) {
    switch (m.type) {
      case 'block': {
        const side = m['side'] as Side;
        const index = m['index'] as number;
        const old = this.blocks[side].get(index);
        if (old && this.playing && side === this.side && this.at(this.position) === index)
          this.replaced = { index, sound: old, left: FADE };
        this.blocks[side].set(index, m['sound'] as Sound);
        break;
      }
      case 'drop':
        this.blocks[m['side'] as Side].delete(m['index'] as number);
        break;
      case 'speed':
        this.speed = m['speed'] as number;
        this.jumped();
        break;
      case 'scrub':
        if (!this.playing) this.scrub = { from: m['at'] as number, at: 0 };
        break;
      case 'play':
        this.scrub = undefined;
        this.jumped();
        this.position = m['from'] as number;
        this.playing = true;
        this.ended = false;
        this.report();
        break;
      case 'pause':
        this.playing = false;
        this.report();
        break;
      case 'seek':
        this.jumped();
        this.position = m['to'] as number;
        this.ended = false;
        this.report();
        break;
      case 'side':
        if (m['side'] !== this.side) {
          this.from = this.side;
          this.side = m['side'] as Side;
          this.sideFade = this.playing ? FADE : 0;
        }
        break;
      case 'loop':
        this.loop = { start: m['start'] as number, end: m['end'] as number };
        break;
      case 'noloop':
        this.loop = undefined;
        break;
      case 'length':
        this.length = m['samples'] as number;
        break;
    }
  }

  private jumped() {
    this.made = undefined;
    this.stretcher.reset();
    this.position = Math.round(this.position);
  }

  private read(position: number): [number, number] | undefined {
    if (position < 0 || position >= this.length) return [0, 0];
    const index = this.at(position);
    const block = this.blocks[this.side].get(index);
    const k = position - index * this.grid;
    return block && [block[0][k] ?? 0, block[1][k] ?? 0];
  }

  /** The next sample at another speed; undefined while it must wait. */
  private stretched(): [number, number] | undefined {
    if (!this.made || this.madeAt >= this.made[0].length) {
      if (this.loop && this.position >= this.loop.end) {
        this.position = this.loop.start;
        this.stretcher.reset();
      }
      this.made = this.stretcher.next(Math.round(this.position), (p) => this.read(p));
      this.madeAt = 0;
      if (!this.made) return undefined;
    }
    const i = this.madeAt++;
    this.position += this.speed;
    return [this.made[0][i]!, this.made[1][i]!];
  }

  /** A short grain of sound at the place that is pointed at. */
  private scrubbed(): [number, number] {
    const grain = this.scrub!;
    const length = Math.round(SCRUB_SECONDS * sampleRate);
    const found = this.read(Math.round(grain.from) + grain.at);
    const shape = Math.sin((Math.PI * grain.at) / length) ** 2;
    if (++grain.at >= length || !found) this.scrub = undefined;
    return found ? [found[0] * shape, found[1] * shape] : [0, 0];
  }

  private at(position: number): number {
    return Math.floor(position / this.grid);
  }

  process(_: Float32Array[][], outputs: Float32Array[][]): boolean {
    const [sound, where] = outputs as [Float32Array[], Float32Array[]];
    const left = sound[0]!;
    const right = sound[1] ?? left;
    const n = left.length;
    const blockOut = where?.[0];
    const offsetOut = where?.[1];
    this.starving = false;
    for (let i = 0; i < n; i++) {
      let l = 0;
      let r = 0;
      let index = -1;
      let offset = -1;
      if (this.scrub && !this.playing) [l, r] = this.scrubbed();
      else if (this.playing && this.speed !== 1) {
        if (this.position >= this.length) {
          this.playing = false;
          this.ended = true;
        } else {
          const found = this.stretched();
          if (found) [l, r] = found;
          else this.starving = true;
        }
      } else if (this.playing) {
        if (this.loop && this.position >= this.loop.end) this.position = this.loop.start;
        if (this.position >= this.length) {
          this.playing = false;
          this.ended = true;
        } else {
          const at = this.at(this.position);
          const k = this.position - at * this.grid;
          const block = this.blocks[this.side].get(at);
          if (!block) {
            // Silence, and time stands still, until the block is there.
            this.starving = true;
          } else {
            // A block may be shorter than the grid at the reel's end: the rest is silence.
            l = block[0][k] ?? 0;
            r = block[1][k] ?? 0;
            if (this.sideFade > 0) {
              const other = this.blocks[this.from].get(at);
              const u = this.sideFade-- / FADE;
              if (other) {
                l += u * ((other[0][k] ?? 0) - l);
                r += u * ((other[1][k] ?? 0) - r);
              }
            }
            if (this.replaced && this.replaced.index === at && this.replaced.left > 0) {
              const u = this.replaced.left-- / FADE;
              l += u * ((this.replaced.sound[0][k] ?? 0) - l);
              r += u * ((this.replaced.sound[1][k] ?? 0) - r);
            } else this.replaced = undefined;
            index = at;
            offset = k;
            this.position++;
          }
        }
      }
      left[i] = l;
      right[i] = r;
      if (blockOut) blockOut[i] = index;
      if (offsetOut) offsetOut[i] = offset;
      if (Math.abs(l) > this.peaks[0]) this.peaks[0] = Math.abs(l);
      if (Math.abs(r) > this.peaks[1]) this.peaks[1] = Math.abs(r);
    }
    this.sinceReport += n;
    if (this.sinceReport >= REPORT_EVERY) this.report(n);
    return true;
  }

  private report(ahead = 0) {
    this.port.postMessage({
      type: 'at',
      position: this.position,
      frame: currentFrame + ahead,
      playing: this.playing,
      starving: this.starving,
      peaks: this.peaks,
      ended: this.ended,
    });
    this.peaks = [0, 0];
    this.sinceReport = 0;
  }
}

registerProcessor('block-player', BlockPlayer);
