/**
 * The sound that the worklet holds: seconds of it, each in parts that may be there or not, and may
 * be out of date.
 *
 * What is out of date is not played, except where the playhead is in the middle of it: there it goes
 * on for a moment, until what replaces it has come.
 */
import type { Sound } from './messages';

export type { Sound } from './messages';

/** Of a block, parts that can be had one by one. */
export const PARTS = 20;

interface Held {
  sound: Sound;
  parts: (Part | undefined)[];
}

export interface Part {
  /** The state of the reel for which it is known to be right. */
  state: number;
  /** That of a render, and not worked out in a hurry. */
  exact: boolean;
}

/** Whether two parts are of the same sound: of one state of the reel, and as exact. */
export function alike(a: Part | undefined, b: Part | undefined): boolean {
  return a === b || (a?.state === b?.state && a?.exact === b?.exact);
}

export class Shelf {
  private readonly blocks = new Map<number, Held>();
  /** Counts the states of the reel. */
  private state = 0;
  /** By what its samples are multiplied when they are heard. */
  gain = 1;

  /** `grid`: samples of a block. */
  constructor(readonly grid: number) {}

  /** A whole block has come. */
  put(index: number, sound: Sound, exact = true) {
    const part = { state: this.state, exact };
    this.blocks.set(index, { sound, parts: Array.from({ length: PARTS }, () => ({ ...part })) });
  }

  /** A stretch of whole parts has come; what lies around it stays, and if so, what is right. */
  putSlice(start: number, sound: Sound, exact: boolean, spare = false) {
    const stop = start + sound[0].length;
    for (let at = start; at < stop;) {
      const index = Math.floor(at / this.grid);
      const first = index * this.grid;
      const held = this.room(index);
      const part = this.partOf(at - first);
      // At the reel's end a part may be shorter; the rest of it is silence.
      const until = first + this.edge(part + 1);
      const right = spare && held.parts[part]?.state === this.state;
      for (const side of right ? [] : ([0, 1] as const)) {
        held.sound[side].fill(0, at - first, until - first);
        held.sound[side].set(sound[side].subarray(at - start, until - start), at - first);
      }
      if (!right) held.parts[part] = { state: this.state, exact };
      at = until;
    }
  }

  /** A block as it is held, of full length. */
  private room(index: number): Held {
    const old = this.blocks.get(index);
    if (old?.sound[0].length === this.grid) return old;
    const held: Held = {
      sound: [new Float32Array(this.grid), new Float32Array(this.grid)],
      parts: old?.parts ?? Array.from({ length: PARTS }, () => undefined),
    };
    for (const side of [0, 1] as const) if (old) held.sound[side].set(old.sound[side]);
    this.blocks.set(index, held);
    return held;
  }

  /** What is there is right, and that of a render if the reel is what is committed. */
  confirm(index: number, exact = true) {
    const held = this.blocks.get(index);
    if (held) held.parts = held.parts.map((part) => part && { state: this.state, exact });
  }

  /** Nothing is known to be right any more. */
  doubt() {
    this.state++;
  }

  /** What is known of the part that holds a sample. */
  part(position: number): Readonly<Part> | undefined {
    const index = Math.floor(position / this.grid);
    return this.blocks.get(index)?.parts[this.partOf(position - index * this.grid)];
  }

  /** Whether a sample is that of a render, as the reel is now. */
  isExact(position: number): boolean {
    const part = this.part(position);
    return Boolean(part?.exact && part.state === this.state);
  }

  drop(index: number) {
    this.blocks.delete(index);
  }

  /** Where the stretch that can be played from a sample on ends; the sample itself if there is none. */
  until(position: number, stale: boolean): number {
    const index = Math.floor(position / this.grid);
    const held = this.blocks.get(index);
    if (!held) return position;
    const start = index * this.grid;
    let end = position;
    for (let part = this.partOf(position - start); part < PARTS; part++) {
      const found = held.parts[part];
      if (!found || (!stale && found.state !== this.state)) break;
      end = start + this.edge(part + 1);
    }
    return end;
  }

  /** A sample, whatever is known of it; silence where there is none; `raw` without the gain. */
  sample(position: number, raw = false): [number, number] {
    const index = Math.floor(position / this.grid);
    const sound = this.blocks.get(index)?.sound;
    const k = position - index * this.grid;
    // A block may be shorter than the grid at the reel's end: the rest is silence.
    const l = sound?.[0][k] ?? 0;
    const r = sound?.[1][k] ?? 0;
    return raw || this.gain === 1 ? [l, r] : [l * this.gain, r * this.gain];
  }

  /** So many samples from a place on. */
  stretch(position: number, count: number): Sound {
    const sound: Sound = [new Float32Array(count), new Float32Array(count)];
    for (let k = 0; k < count; k++) [sound[0][k], sound[1][k]] = this.sample(position + k);
    return sound;
  }

  /** How many samples from a place on are of one sound, as far as a limit. */
  alikeFrom(position: number, limit: number): number {
    const part = this.part(position);
    let count = 0;
    while (part && count < limit && alike(part, this.part(position + count))) count++;
    return count;
  }

  /** First sample of a part within its block. */
  edge(part: number): number {
    return Math.floor((this.grid * part) / PARTS);
  }

  /** The part that a sample of a block lies in. */
  partOf(offset: number): number {
    let part = Math.floor((offset * PARTS) / this.grid);
    if (this.edge(part + 1) <= offset) part++;
    return part;
  }
}
