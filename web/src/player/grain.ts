/** A short grain of sound at a place that is pointed at. */
import type { Sound } from './shelf';

export class Grain {
  private at = 0;

  /** It lasts as long as its sound, and rises and falls within it. */
  constructor(private readonly sound: Sound) {}

  get done(): boolean {
    return this.at >= this.sound[0].length;
  }

  next(): [number, number] {
    const shape = this.shape(this.at);
    const k = this.at++;
    return [this.sound[0][k]! * shape, this.sound[1][k]! * shape];
  }

  /** The rest of it, as it would be heard. */
  rest(count: number): Sound {
    return this.sound.map((side) =>
      Float32Array.from({ length: count }, (_, k) => {
        return (side[this.at + k] ?? 0) * this.shape(this.at + k);
      }),
    ) as Sound;
  }

  private shape(k: number): number {
    return Math.sin((Math.PI * Math.min(k, this.sound[0].length)) / this.sound[0].length) ** 2;
  }
}
