/** What one side has that the other lacks: the samples of the one less those of the other. */
import type { Sound } from './messages';
import type { Part, Shelf } from './shelf';

/** States of two shelves in one number: neither changes this often while a page is open. */
const APART = 2 ** 26;

export class Difference {
  constructor(
    private readonly one: Shelf,
    private readonly other: Shelf,
  ) {}

  part(position: number): Readonly<Part> | undefined {
    const [a, b] = [this.one.part(position), this.other.part(position)];
    return a && b && { state: a.state * APART + b.state, exact: a.exact && b.exact };
  }

  isExact(position: number): boolean {
    return this.one.isExact(position) && this.other.isExact(position);
  }

  until(position: number, stale: boolean): number {
    return Math.min(this.one.until(position, stale), this.other.until(position, stale));
  }

  /** At the gain of the export, both of them: what is equal on both sides cancels. */
  sample(position: number): [number, number] {
    const [l, r] = this.one.sample(position);
    const [ol, or] = this.other.sample(position, true);
    return [l - ol, r - or];
  }

  stretch(position: number, count: number): Sound {
    const sound: Sound = [new Float32Array(count), new Float32Array(count)];
    for (let k = 0; k < count; k++) [sound[0][k], sound[1][k]] = this.sample(position + k);
    return sound;
  }

  alikeFrom(position: number, limit: number): number {
    return Math.min(this.one.alikeFrom(position, limit), this.other.alikeFrom(position, limit));
  }
}
