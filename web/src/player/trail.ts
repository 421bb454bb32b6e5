/** The sound that has just been heard, from which it can go on for a moment by itself. */
import { extended, PAST } from './extend';
import { alike, type Part, type Sound } from './shelf';

/** A step of −120 dB. */
const INAUDIBLE = 1e-6;

export class Trail {
  /** Rings of the last samples, before any fade. */
  private readonly rings: Sound = [new Float32Array(PAST), new Float32Array(PAST)];
  private count = 0;
  /** Of which part the last sample was. */
  private part: Part | undefined;

  push(left: number, right: number, part: Part | undefined) {
    const at = this.count++ % PAST;
    this.rings[0][at] = left;
    this.rings[1][at] = right;
    this.part = part;
  }

  /** What follows has nothing to do with what was heard. */
  clear() {
    this.count = 0;
    this.part = undefined;
  }

  get empty(): boolean {
    return this.count === 0;
  }

  /** Whether a part is of the sound that was heard. */
  goesOnWith(part: Part | undefined): boolean {
    return this.part !== undefined && alike(this.part, part);
  }

  /** How it would go on by itself. */
  extended(count: number): Sound {
    return this.past().map((side) => extended(side, count)) as Sound;
  }

  /** Whether another sound would follow with a step, beyond what either of them does by itself. */
  steps(next: Sound): boolean {
    const past = this.past();
    return steps(past[0], next[0]) || steps(past[1], next[1]);
  }

  private past(): Sound {
    const length = Math.min(this.count, PAST);
    const from = this.count - length;
    return this.rings.map((ring) =>
      Float32Array.from({ length }, (_, k) => ring[(from + k) % PAST]!),
    ) as Sound;
  }
}

function steps(past: Float32Array, next: Float32Array): boolean {
  const n = past.length;
  const at = (i: number) => (i < n ? past[i]! : next[i - n]!);
  const bend = (i: number) => Math.abs(at(i + 1) - 2 * at(i) + at(i - 1));
  let own = 0;
  for (let i = Math.max(1, n - next.length); i < n + next.length - 1; i++)
    if (i < n - 1 || i > n) own = Math.max(own, bend(i));
  // One sample says nothing of how it moves.
  return n < 2 || Math.max(bend(n - 1), bend(n)) > 2 * own + INAUDIBLE;
}
