/**
 * The sound that the worklet holds: seconds of it, each in parts that may be there or not, and may
 * be out of date.
 *
 * What is out of date is not played, except where the playhead is in the middle of it: there it goes
 * on for a moment, until what replaces it has come.
 */
export type Sound = [Float32Array, Float32Array];

/** Of a block, parts that can be had one by one. */
export const PARTS = 5;
const ALL = 2 ** PARTS - 1;

interface Held {
  sound: Sound;
  /** Bits of the parts that are there, of those that are known to be right, and exactly so. */
  there: number;
  fresh: number;
  exact: number;
}

export class Shelf {
  private readonly blocks = new Map<number, Held>();

  /** `grid`: samples of a block. */
  constructor(readonly grid: number) {}

  /** A whole block has come; what it replaces is returned. */
  put(index: number, sound: Sound): Sound | undefined {
    const old = this.blocks.get(index)?.sound;
    this.blocks.set(index, { sound, there: ALL, fresh: ALL, exact: ALL });
    return old;
  }

  /** A part of a block has come; what lies around it stays. */
  putPart(index: number, part: number, sound: Sound, exact: boolean): Sound | undefined {
    const old = this.blocks.get(index);
    const from = this.edge(part);
    const joined = [0, 1].map((side) => {
      const whole = new Float32Array(this.grid);
      if (old) whole.set(old.sound[side as 0 | 1].subarray(0, this.grid));
      // At the reel's end it may be shorter than the part.
      whole.fill(0, from, this.edge(part + 1));
      whole.set(sound[side as 0 | 1], from);
      return whole;
    }) as Sound;
    const bit = 1 << part;
    this.blocks.set(index, {
      sound: joined,
      there: (old?.there ?? 0) | bit,
      fresh: (old?.fresh ?? 0) | bit,
      exact: exact ? (old?.exact ?? 0) | bit : (old?.exact ?? 0) & ~bit,
    });
    return old?.sound;
  }

  /** What is there is right. */
  confirm(index: number) {
    const held = this.blocks.get(index);
    if (held) held.fresh = held.there;
  }

  /** Nothing is known to be right any more. */
  doubt() {
    for (const held of this.blocks.values()) held.fresh = 0;
  }

  /** Whether a sample is that of a render, and not worked out in a hurry. */
  exact(position: number): boolean {
    const index = Math.floor(position / this.grid);
    const held = this.blocks.get(index);
    return Boolean(held && held.exact & (1 << this.partOf(position - index * this.grid)));
  }

  drop(index: number) {
    this.blocks.delete(index);
  }

  /** Where the stretch that can be played from a sample on ends; the sample itself if there is none. */
  until(position: number, stale: boolean): number {
    const index = Math.floor(position / this.grid);
    const held = this.blocks.get(index);
    if (!held) return position;
    const bits = stale ? held.there : held.fresh;
    const start = index * this.grid;
    let end = position;
    for (let part = this.partOf(position - start); part < PARTS; part++) {
      if (!(bits & (1 << part))) break;
      end = start + this.edge(part + 1);
    }
    return end;
  }

  /** The sound of the block that holds a sample, whatever is known of it. */
  at(position: number): Sound | undefined {
    return this.blocks.get(Math.floor(position / this.grid))?.sound;
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
