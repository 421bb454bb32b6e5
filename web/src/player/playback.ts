/**
 * Plays blocks of the reel, exactly sample by sample, and never with a click.
 *
 * Whatever stops, jumps or runs out fades within 5 ms, and whatever begins fades in: what was heard
 * goes on as an echo of the old place while the new one rises. In between the samples are those of
 * the blocks, bit for bit.
 */
import type { Report, Side, ToWorklet } from './messages';
import { Shelf, type Sound } from './shelf';
import { Stretcher } from './stretch';

export const FADE_SECONDS = 0.005;
/** For so long what is out of date may go on where the playhead is. */
const GRACE_SECONDS = 0.25;
const SCRUB_SECONDS = 0.08;

/** A place that is being left: what is heard of it on its way to silence. */
interface Leaving {
  position: number;
  side: Side;
  /** A block that has been replaced, and where it began. */
  instead: { sound: Sound; start: number } | undefined;
  gain: number;
  left: number;
}

interface Loop {
  start: number;
  end: number;
}

export class Playback {
  private readonly shelves: Record<Side, Shelf>;
  private readonly fade: number;
  private readonly grace: number;
  private readonly stretcher: Stretcher;
  private side: Side = 'treated';
  private leaving: Leaving[] = [];
  /** Samples of the rise that are done. */
  private risen = 0;
  private position = 0;
  private playing = false;
  private starving = false;
  private ended = false;
  private length = 0;
  private loop: Loop | undefined;
  private peaks: [number, number] = [0, 0];
  private speed = 1;
  /** Samples for which what is out of date may still be played. */
  private lenient = 0;
  /** Stretched sound that has been made and not been played. */
  private made: Sound | undefined;
  private madeAt = 0;
  private grain: { from: number; at: number } | undefined;

  constructor(
    private readonly grid: number,
    private readonly sampleRate: number,
  ) {
    this.shelves = { treated: new Shelf(grid), untreated: new Shelf(grid) };
    this.fade = Math.max(1, Math.round(FADE_SECONDS * sampleRate));
    this.grace = Math.round(GRACE_SECONDS * sampleRate);
    this.stretcher = new Stretcher(sampleRate);
  }

  /** Take a message; whether the outside should hear of the state at once. */
  receive(m: ToWorklet): boolean {
    switch (m.type) {
      case 'block':
        this.replaced(m.side, m.index, this.shelves[m.side].put(m.index, m.sound));
        return false;
      case 'part':
        this.replaced(
          m.side,
          m.index,
          this.shelves[m.side].putPart(m.index, m.part, m.sound, m.exact),
        );
        return false;
      case 'right':
        this.shelves[m.side].confirm(m.index);
        return false;
      case 'doubt':
        this.shelves[m.side].doubt();
        if (m.side === this.side) this.lenient = this.grace;
        return false;
      case 'drop':
        this.shelves[m.side].drop(m.index);
        return false;
      case 'speed':
        this.leave();
        this.speed = m.speed;
        this.jumped(Math.round(this.position));
        return false;
      case 'scrub':
        if (!this.playing) this.grain = { from: m.at, at: 0 };
        return false;
      case 'play':
        this.grain = undefined;
        this.jumped(m.from);
        this.playing = true;
        this.ended = false;
        return true;
      case 'pause':
        this.leave();
        this.playing = false;
        return true;
      case 'seek':
        this.leave();
        this.jumped(m.to);
        this.ended = false;
        return true;
      case 'side':
        if (m.side !== this.side) {
          this.leave();
          this.side = m.side;
          this.risen = 0;
          this.lenient = 0;
        }
        return false;
      case 'loop':
        this.loop = m.end > m.start ? { start: m.start, end: m.end } : undefined;
        return false;
      case 'noloop':
        this.loop = undefined;
        return false;
      case 'length':
        this.length = m.samples;
        return false;
    }
  }

  /**
   * The next samples.
   *
   * `block` and `offset` are filled with which sample of the reel each of them is, −1 where it is
   * none: silence, on its way in or out, or worked out in a hurry.
   */
  fill(left: Float32Array, right: Float32Array, block?: Float32Array, offset?: Float32Array) {
    this.starving = false;
    const n = left.length;
    block?.fill(-1);
    offset?.fill(-1);
    let ahead = this.playing && this.speed === 1 ? this.ahead(n + this.fade) : 0;
    const soft = this.endsSoftly();
    for (let i = 0; i < n; i++) {
      let l = 0;
      let r = 0;
      if (this.playing && this.speed === 1 && this.loop && this.position >= this.loop.end)
        this.wrap();
      if (this.grain && !this.playing) [l, r] = this.scrubbed();
      else if (this.playing && this.position >= this.length && !this.loop) {
        this.playing = false;
        this.ended = true;
      } else if (this.playing && this.speed !== 1) {
        const found = this.stretched();
        if (found) {
          const gain = smooth(this.rise());
          [l, r] = [found[0] * gain, found[1] * gain];
        } else {
          this.starving = true;
          this.risen = 0;
        }
      } else if (this.playing && ahead > 0) {
        // What is taken away all at once fades as a place that is left does.
        if (this.risen > ahead) this.leave();
        // It is silent by the time that there is nothing more to play.
        const room = soft ? this.loop!.end - this.position - 1 : ahead;
        this.risen = Math.min(this.risen + 1, ahead - 1, room, this.fade);
        const share = this.risen / this.fade;
        [l, r] = this.sampleAt(this.side, this.position);
        if (share < 1) {
          const gain = smooth(share);
          l *= gain;
          r *= gain;
        } else if (!this.leaving.length && this.shelves[this.side].exact(this.position)) {
          const index = Math.floor(this.position / this.grid);
          if (block) block[i] = index;
          if (offset) offset[i] = this.position - index * this.grid;
        }
        this.position++;
        ahead--;
        if (this.lenient) this.lenient--;
      } else if (this.playing) {
        // Time stands still until the sound is there.
        this.starving = true;
        this.risen = 0;
      }
      for (const old of this.leaving) {
        const gain = old.gain * smooth(--old.left / this.fade);
        const [a, b] = this.leftSample(old);
        l += gain * a;
        r += gain * b;
        old.position++;
      }
      if (this.leaving.length) this.leaving = this.leaving.filter((old) => old.left > 0);
      left[i] = l;
      right[i] = r;
      if (Math.abs(l) > this.peaks[0]) this.peaks[0] = Math.abs(l);
      if (Math.abs(r) > this.peaks[1]) this.peaks[1] = Math.abs(r);
    }
  }

  /** Where it stands at a frame of the audio context. */
  report(frame: number): Report {
    const { position, playing, starving, peaks, ended } = this;
    this.peaks = [0, 0];
    return { type: 'at', position, frame, playing, starving, peaks, ended };
  }

  /** Whether a loop must fade before its end, since there is nothing behind it to fade out of. */
  private endsSoftly(): boolean {
    if (!this.loop) return false;
    const { end } = this.loop;
    const until = end + this.fade;
    const shelf = this.shelves[this.side];
    return until > this.length || shelf.until(end, true) < Math.min(until, this.nextBlock(end));
  }

  private nextBlock(position: number): number {
    return (Math.floor(position / this.grid) + 1) * this.grid;
  }

  private rise(): number {
    this.risen = Math.min(this.risen + 1, this.fade);
    return this.risen / this.fade;
  }

  /** From here on another place is heard; this one goes on for a moment. */
  private leave() {
    const gain = smooth(this.risen / this.fade);
    if (!this.playing || gain === 0) return;
    this.leaving.push({
      position: Math.round(this.position),
      side: this.side,
      instead: undefined,
      gain,
      left: this.fade,
    });
  }

  private jumped(position: number) {
    this.made = undefined;
    this.stretcher.reset();
    this.position = position;
    this.risen = 0;
    this.lenient = 0;
  }

  private wrap() {
    this.leave();
    this.jumped(this.loop!.start);
  }

  /** A block or a part of one has been replaced: where it is being played, it fades over. */
  private replaced(side: Side, index: number, old: Sound | undefined) {
    if (!old || !this.playing || side !== this.side || this.speed !== 1) return;
    const start = index * this.grid;
    const from = this.position - start;
    if (from < 0 || from >= this.grid || !this.risen) return;
    const now = this.shelves[side].at(this.position)!;
    const until = Math.min(from + this.fade, this.grid);
    for (let k = from; k < until; k++) {
      if (now[0][k] === old[0][k] && now[1][k] === old[1][k]) continue;
      const gain = smooth(this.risen / this.fade);
      const instead = { sound: old, start };
      this.leaving.push({ position: this.position, side, instead, gain, left: this.fade });
      this.risen = 0;
      return;
    }
  }

  /** How many samples can be played from here on in a row, as far as a limit. */
  private ahead(limit: number): number {
    let count = 0;
    let at = this.position;
    let lenient = this.lenient;
    while (count < limit) {
      if (this.loop && at >= this.loop.end) {
        at = this.loop.start;
        // Nothing that is out of date is played first.
        lenient = 0;
      }
      if (at >= this.length) return limit;
      const shelf = this.shelves[this.side];
      let end = shelf.until(at, lenient > 0);
      if (lenient > 0) end = Math.max(shelf.until(at, false), Math.min(end, at + lenient));
      if (this.loop) end = Math.min(end, this.loop.end);
      if (end === at) return count;
      count += end - at;
      lenient = Math.max(0, lenient - (end - at));
      at = end;
    }
    return count;
  }

  private sampleAt(side: Side, position: number): [number, number] {
    const sound = this.shelves[side].at(position);
    if (!sound) return [0, 0];
    const k = position - Math.floor(position / this.grid) * this.grid;
    // A block may be shorter than the grid at the reel's end: the rest is silence.
    return [sound[0][k] ?? 0, sound[1][k] ?? 0];
  }

  private leftSample(old: Leaving): [number, number] {
    if (!old.instead) return this.sampleAt(old.side, old.position);
    const k = old.position - old.instead.start;
    return [old.instead.sound[0][k] ?? 0, old.instead.sound[1][k] ?? 0];
  }

  private read(position: number): [number, number] | undefined {
    if (position < 0 || position >= this.length) return [0, 0];
    const shelf = this.shelves[this.side];
    return shelf.until(position, true) > position ? this.sampleAt(this.side, position) : undefined;
  }

  /** The next sample at another speed; undefined while it must wait. */
  private stretched(): [number, number] | undefined {
    if (!this.made || this.madeAt >= this.made[0].length) {
      if (this.loop && this.position >= this.loop.end) this.wrap();
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
    const grain = this.grain!;
    const length = Math.round(SCRUB_SECONDS * this.sampleRate);
    const found = this.read(Math.round(grain.from) + grain.at);
    const shape = Math.sin((Math.PI * grain.at) / length) ** 2;
    if (++grain.at >= length || !found) this.grain = undefined;
    return found ? [found[0] * shape, found[1] * shape] : [0, 0];
  }
}

function smooth(u: number): number {
  return u >= 1 ? 1 : u <= 0 ? 0 : u * u * (3 - 2 * u);
}
