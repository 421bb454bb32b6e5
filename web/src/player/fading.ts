/** Sounds that have been left, on their way to silence. */
import type { Sound } from './shelf';

export class Fading {
  private sounds: { sound: Sound; gain: number; at: number }[] = [];

  /** `length`: samples of a fade. */
  constructor(readonly length: number) {}

  get silent(): boolean {
    return this.sounds.length === 0;
  }

  /** `sound` is as long as a fade; `gain` is what it was heard with. */
  add(sound: Sound, gain: number) {
    if (gain > 0) this.sounds.push({ sound, gain, at: 0 });
  }

  next(): [number, number] {
    let [l, r] = [0, 0];
    for (const old of this.sounds) {
      const gain = old.gain * smooth(1 - (old.at + 1) / this.length);
      l += gain * old.sound[0][old.at]!;
      r += gain * old.sound[1][old.at]!;
      old.at++;
    }
    if (!this.silent) this.sounds = this.sounds.filter((old) => old.at < this.length);
    return [l, r];
  }
}

/** A rise from 0 to 1 that is level at both ends. */
export function smooth(u: number): number {
  return u >= 1 ? 1 : u <= 0 ? 0 : u * u * (3 - 2 * u);
}
