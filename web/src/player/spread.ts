/**
 * How loud the windows since a reset were, by hundredths of a LU: what is asked of them takes as long
 * after a day as after a minute.
 */

const LOWEST = -70;
const HIGHEST = 30;
const BINS_A_LU = 100;

export const lufs = (power: number) => -0.691 + 10 * Math.log10(Math.max(power, 1e-12));

export class Spread {
  private readonly counts = new Uint32Array((HIGHEST - LOWEST) * BINS_A_LU);
  private readonly powers = new Float64Array((HIGHEST - LOWEST) * BINS_A_LU);

  clear() {
    this.counts.fill(0);
    this.powers.fill(0);
  }

  /** Add a window; what lies below the absolute gate does not count. */
  add(power: number) {
    const level = lufs(power);
    if (level <= LOWEST) return;
    const bin = Math.min(this.counts.length - 1, Math.floor((level - LOWEST) * BINS_A_LU));
    this.counts[bin]!++;
    this.powers[bin]! += power;
  }

  /** Mean power above a level; undefined where there is nothing. */
  mean(above = LOWEST): number | undefined {
    let [count, power] = [0, 0];
    for (let bin = this.first(above); bin < this.counts.length; bin++) {
      count += this.counts[bin]!;
      power += this.powers[bin]!;
    }
    return count > 0 ? power / count : undefined;
  }

  /** From one share of the windows above a level to another, in LU. */
  between(low: number, high: number, above: number): number {
    return this.level(high, above) - this.level(low, above);
  }

  /** The level at a share of the windows, between two of them where it falls so. */
  private level(share: number, above: number): number {
    const first = this.first(above);
    let total = 0;
    for (let bin = first; bin < this.counts.length; bin++) total += this.counts[bin]!;
    const at = share * (total - 1);
    const low = this.nth(Math.floor(at), first);
    const high = this.nth(Math.min(total - 1, Math.floor(at) + 1), first);
    return low + (high - low) * (at - Math.floor(at));
  }

  private nth(place: number, first: number): number {
    let seen = 0;
    for (let bin = first; bin < this.counts.length; bin++) {
      seen += this.counts[bin]!;
      if (seen > place) return lufs(this.powers[bin]! / this.counts[bin]!);
    }
    return LOWEST;
  }

  private first(above: number): number {
    return Math.max(0, Math.floor((above - LOWEST) * BINS_A_LU));
  }
}
