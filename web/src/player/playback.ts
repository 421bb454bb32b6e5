/**
 * Plays blocks of the reel, exactly sample by sample, and never with a click.
 *
 * Whatever stops, jumps, runs out or becomes another sound fades within 5 ms, and whatever begins
 * fades in: what was heard goes on for a moment while the new sound rises. In between the samples
 * are those of the blocks, bit for bit.
 */
import { Fading, smooth } from './fading';
import { Grain } from './grain';
import { Difference } from './difference';
import type { Heard, Report, Side, ToWorklet } from './messages';
import { Shelf, type Sound } from './shelf';
import { Stretcher } from './stretch';
import { Trail } from './trail';

export const FADE_SECONDS = 0.005;
/** For so long what is out of date may go on where the playhead is. */
const GRACE_SECONDS = 0.25;
/** The same while a hand is at work: what it did a moment ago is better than nothing. */
const HAND_GRACE_SECONDS = 0.8;
/** It begins, and goes on after a wait, when so much is there: what follows is on its way. */
const ENOUGH_SECONDS = 0.15;
const SCRUB_SECONDS = 0.08;

interface Loop {
  start: number;
  end: number;
}

/** What is needed of what is played: one side, or the difference of both. */
type Played = Pick<Shelf, 'part' | 'isExact' | 'until' | 'sample' | 'stretch' | 'alikeFrom'>;

export class Playback {
  private readonly shelves: Record<Side, Shelf>;
  private readonly difference: Difference;
  private readonly fade: number;
  private readonly grace: number;
  private readonly handGrace: number;
  private readonly enough: number;
  private readonly scrub: number;
  private readonly stretcher: Stretcher;
  /** What has been left. */
  private readonly fading: Fading;
  /** What is being heard. */
  private readonly trail = new Trail();
  private side: Heard = 'treated';
  /** Samples of the rise that are done. */
  private risen = 0;
  private position = 0;
  private playing = false;
  private starving = false;
  /** Nothing has been heard since it was to play from here. */
  private waits = true;
  private ended = false;
  private jumps = 0;
  private length = 0;
  /** Of the reel as it is without a draft. */
  private fullLength = 0;
  private loop: Loop | undefined;
  private peaks: [number, number] = [0, 0];
  private speed = 1;
  /** Samples for which what is out of date may still be played. */
  private lenient = 0;
  /** Stretched sound that has been made and not been played. */
  private made: Sound | undefined;
  private madeAt = 0;
  private grain: Grain | undefined;
  /** The draft that may be heard. */
  private hand = 0;
  /** The reel has changed since. */
  private doubted = false;

  constructor(
    private readonly grid: number,
    sampleRate: number,
  ) {
    this.shelves = { treated: new Shelf(grid), other: new Shelf(grid) };
    this.difference = new Difference(this.shelves.treated, this.shelves.other);
    this.fade = Math.max(1, Math.round(FADE_SECONDS * sampleRate));
    this.grace = Math.round(GRACE_SECONDS * sampleRate);
    this.handGrace = Math.round(HAND_GRACE_SECONDS * sampleRate);
    this.enough = Math.round(ENOUGH_SECONDS * sampleRate);
    this.scrub = Math.round(SCRUB_SECONDS * sampleRate);
    this.stretcher = new Stretcher(sampleRate);
    this.fading = new Fading(this.fade);
  }

  /** Take a message; whether the outside should hear of the state at once. */
  receive(m: ToWorklet): boolean {
    switch (m.type) {
      case 'block':
        this.shelves[m.side].put(m.index, m.sound, m.exact);
        return false;
      case 'slice':
        this.shelves[m.side].putSlice(m.start, m.sound, m.exact);
        return false;
      case 'hand':
        this.hand = m.serial;
        this.doubted = false;
        return false;
      case 'draft':
        this.draft(m);
        return false;
      case 'right':
        this.shelves[m.side].confirm(m.index, m.exact);
        return false;
      case 'doubt':
        this.shelves[m.side].doubt();
        if (m.side === 'treated') this.doubted = true;
        if (m.side === this.side || this.side === 'difference')
          this.lenient = this.hand ? this.handGrace : this.grace;
        return false;
      case 'drop':
        this.shelves[m.side].drop(m.index);
        return false;
      case 'speed':
        this.jump(Math.round(this.position));
        this.speed = m.speed;
        return false;
      case 'scrub':
        if (!this.playing) this.point(m.at);
        return false;
      case 'jump':
        this.jumps = m.count;
        return false;
      case 'play':
        this.leaveGrain();
        this.jump(m.from);
        this.playing = true;
        this.waits = true;
        this.ended = false;
        return true;
      case 'pause':
        this.leave();
        this.playing = false;
        return true;
      case 'seek':
        this.jump(m.to);
        this.waits = true;
        this.ended = false;
        return true;
      case 'side':
        if (m.side !== this.side) {
          this.leave();
          this.side = m.side;
          this.lenient = 0;
        }
        return false;
      case 'match':
        if (m.gain !== this.shelves.other.gain) {
          if (this.side === 'other') this.leave();
          this.shelves.other.gain = m.gain;
        }
        return false;
      case 'loop':
        this.loop = m.end > m.start ? { start: m.start, end: m.end } : undefined;
        return false;
      case 'noloop':
        this.loop = undefined;
        return false;
      case 'port':
      case 'reset-meters':
        return false;
      case 'length':
        this.length = m.samples;
        this.fullLength = m.samples;
        return false;
    }
  }

  private draft({ serial, fresh, late, length, slices }: Extract<ToWorklet, { type: 'draft' }>) {
    // It may have been given up while it was on its way.
    if (serial !== this.hand) return;
    // What it cuts away is silent: the reel does not end while a hand is still at it.
    this.length = Math.max(length, this.fullLength);
    // What has just become an edit may come before the reel is said to have changed.
    const other = fresh || (late === true && !this.doubted);
    if (other) {
      this.shelves.treated.doubt();
      if (this.side === 'treated') this.lenient = this.handGrace;
    }
    for (const { start, sound } of slices)
      this.shelves.treated.putSlice(start, sound, false, !other);
  }

  /**
   * The next samples.
   *
   * `block` and `offset` are filled with which sample of the reel each of them is, −1 where it is
   * none: silence, on its way in or out, out of date, or worked out in a hurry.
   */
  fill(left: Float32Array, right: Float32Array, block?: Float32Array, offset?: Float32Array) {
    this.starving = false;
    const n = left.length;
    block?.fill(-1);
    offset?.fill(-1);
    if (this.waits && this.playing) this.waits = this.ahead(this.enough) < this.enough;
    let ahead = this.playing && this.speed === 1 ? this.ahead(n + this.fade) : 0;
    const soft = this.endsSoftly();
    for (let i = 0; i < n; i++) {
      let sound: [number, number] | undefined;
      const { speed, loop } = this;
      if (this.playing && speed === 1 && loop && this.position >= loop.end) this.jump(loop.start);
      if (this.playing && this.position >= this.length && !this.loop) this.end();
      if (!this.playing) sound = this.pointed();
      else if (this.waits) sound = undefined;
      else if (speed !== 1) sound = this.stretched();
      else if (ahead > 0) {
        const place = this.position;
        sound = this.played(ahead--, soft);
        if (sound && this.isThatOfARender(place)) {
          const index = Math.floor(place / this.grid);
          if (block) block[i] = index;
          if (offset) offset[i] = place - index * this.grid;
        }
      }
      if (this.playing && !sound) {
        // Time stands still until the sound is there.
        this.starving = true;
        this.waits = true;
        this.leave();
      }
      const [l, r] = this.fading.next();
      left[i] = l + (sound?.[0] ?? 0);
      right[i] = r + (sound?.[1] ?? 0);
      this.peaks[0] = Math.max(this.peaks[0], Math.abs(left[i]!));
      this.peaks[1] = Math.max(this.peaks[1], Math.abs(right[i]!));
    }
  }

  /** Where it stands at a frame of the audio context. */
  report(frame: number): Report {
    const { position, playing, starving, peaks, ended, jumps } = this;
    this.peaks = [0, 0];
    return { type: 'at', position, frame, playing, starving, peaks, ended, jumps };
  }

  /** The sample of the reel that comes next while it plays at its own speed. */
  get playsFrom(): number | undefined {
    return this.playing && !this.starving && this.speed === 1 ? this.position : undefined;
  }

  /** The next sample of the reel, of so many that are ahead. */
  private played(ahead: number, soft: boolean): [number, number] {
    const part = this.shelf.part(this.position);
    if (!this.trail.empty && !this.trail.goesOnWith(part)) this.join();
    // It is silent by the time that there is nothing more to play.
    const room = soft && this.loop ? this.loop.end - this.position - 1 : ahead;
    const risen = Math.min(this.risen + 1, ahead - 1, room, this.fade);
    // What is taken away all at once fades as a place that is left does.
    if (risen < this.risen - 1) this.fading.add(this.rest(), this.gain - this.gainAt(risen));
    this.risen = risen;
    const [l, r] = this.shelf.sample(this.position);
    this.trail.push(l, r, part);
    this.position++;
    if (this.lenient) this.lenient--;
    const { gain } = this;
    return gain === 1 ? [l, r] : [l * gain, r * gain];
  }

  /** What is held of the side that is heard. */
  private get shelf(): Played {
    return this.side === 'difference' ? this.difference : this.shelves[this.side];
  }

  private isThatOfARender(position: number): boolean {
    return this.risen === this.fade && this.fading.silent && this.shelf.isExact(position);
  }

  private get gain(): number {
    return this.gainAt(this.risen);
  }

  private gainAt(risen: number): number {
    return smooth(risen / this.fade);
  }

  /** Whether a loop must fade before its end, since there is nothing behind it to fade out of. */
  private endsSoftly(): boolean {
    if (!this.loop) return false;
    const { end } = this.loop;
    const until = end + this.fade;
    const nextBlock = (Math.floor(end / this.grid) + 1) * this.grid;
    const there = this.shelf.until(end, true);
    return until > this.length || there < Math.min(until, nextBlock);
  }

  /** From here on another sound is heard, or none; this one goes on for a moment. */
  private leave() {
    if (this.risen && !this.trail.empty) this.fading.add(this.rest(), this.gain);
    this.silence();
  }

  private silence() {
    this.risen = 0;
    this.trail.clear();
  }

  private jump(position: number) {
    this.leave();
    this.made = undefined;
    this.stretcher.reset();
    this.position = position;
    this.lenient = 0;
  }

  private end() {
    // At the reel's own end the last sample is heard as it is.
    if (this.position > this.length) this.leave();
    else this.silence();
    this.playing = false;
    this.ended = true;
  }

  /** What is heard, for the length of a fade: from the shelf, or by itself where that has changed. */
  private rest(): Sound {
    const { shelf, position, fade } = this;
    const last = position + fade - 1;
    const same =
      this.speed === 1 &&
      this.trail.goesOnWith(shelf.part(position)) &&
      this.trail.goesOnWith(shelf.part(last));
    return same ? shelf.stretch(position, fade) : this.trail.extended(fade);
  }

  /**
   * Where a part follows on one of another state of the reel, the first goes on for a moment as it
   * would have, and the second rises. Where they meet without a step they are left alone.
   */
  private join() {
    const next = this.shelf.stretch(this.position, this.shelf.alikeFrom(this.position, this.fade));
    if (this.trail.steps(next)) this.leave();
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
      let end = this.shelf.until(at, lenient > 0);
      if (lenient > 0) end = Math.max(this.shelf.until(at, false), Math.min(end, at + lenient));
      if (this.loop) end = Math.min(end, this.loop.end);
      if (end === at) return count;
      count += end - at;
      lenient = Math.max(0, lenient - (end - at));
      at = end;
    }
    return count;
  }

  private read(position: number): [number, number] | undefined {
    if (position < 0 || position >= this.length) return [0, 0];
    const there = this.shelf.until(position, this.lenient > 0) > position;
    return there ? this.shelf.sample(position) : undefined;
  }

  /** The next sample at another speed; undefined while it must wait. */
  private stretched(): [number, number] | undefined {
    if (!this.made || this.madeAt >= this.made[0].length) {
      if (this.loop && this.position >= this.loop.end) this.jump(this.loop.start);
      this.skipJoin();
      this.made = this.stretcher.next(Math.round(this.position), (p) => this.read(p));
      this.madeAt = 0;
      if (!this.made) return undefined;
    }
    const i = this.madeAt++;
    this.position += this.speed;
    if (this.lenient) this.lenient--;
    const [l, r] = [this.made[0][i]!, this.made[1][i]!];
    this.trail.push(l, r, undefined);
    this.risen = Math.min(this.risen + 1, this.fade);
    return [l * this.gain, r * this.gain];
  }

  /** At another speed a stretch in which the sound becomes another one is left out. */
  private skipJoin() {
    const from = Math.round(this.position);
    const { span, back } = this.stretcher;
    if (!this.read(from) || !this.read(from + span)) return;
    const same = this.shelf.alikeFrom(from, span + 1);
    if (same <= span && from + same < this.length) this.jump(from + same);
    // It would look back for where it goes on best.
    else if (this.shelf.alikeFrom(Math.max(0, from - back), back + 1) <= back) this.jump(from);
  }

  /** Sound at a place is pointed at. */
  private point(place: number) {
    this.leaveGrain();
    const from = Math.round(place);
    const there = this.shelf.alikeFrom(from, this.scrub);
    // One that is too short to rise and fall would be a click.
    if (there > 2 * this.fade) this.grain = new Grain(this.shelf.stretch(from, there));
  }

  private pointed(): [number, number] {
    if (this.grain?.done) this.grain = undefined;
    return this.grain?.next() ?? [0, 0];
  }

  private leaveGrain() {
    if (this.grain) this.fading.add(this.grain.rest(this.fade), 1);
    this.grain = undefined;
  }
}
