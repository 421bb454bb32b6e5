import { describe, expect, it } from 'vitest';
import { lufs, Spread } from './spread';

/** The plain way: all windows kept, sorted and looked at. */
function plainly(powers: readonly number[]) {
  const loud = powers.filter((p) => lufs(p) > -70);
  const mean = (values: readonly number[]) => values.reduce((a, b) => a + b, 0) / values.length;
  const gate = lufs(mean(loud));
  const integrated = lufs(mean(loud.filter((p) => lufs(p) > gate - 10)));
  const sorted = loud
    .map(lufs)
    .filter((level) => level > gate - 20)
    .sort((a, b) => a - b);
  const at = (share: number) => {
    const place = share * (sorted.length - 1);
    const low = sorted[Math.floor(place)]!;
    const high = sorted[Math.min(sorted.length - 1, Math.floor(place) + 1)]!;
    return low + (high - low) * (place % 1);
  };
  return { integrated, range: at(0.95) - at(0.1) };
}

describe('the spread of loudness', () => {
  it.each([1, 2, 3, 4, 5, 6])('is that of all windows together, seed %i', (seed) => {
    let state = seed;
    const draw = () => (state = (state * 16807) % 2147483647) / 2147483647;
    const spread = new Spread();
    const count = 3 + Math.floor(draw() * 5000);
    // Levels that wander, fall silent and come back.
    let level = -30;
    const powers = Array.from({ length: count }, () => {
      level = Math.max(-90, Math.min(0, level + 4 * (draw() - 0.5)));
      return 10 ** (level / 10);
    });
    powers.push(10 ** -2.5);
    for (const power of powers) spread.add(power);
    const loud = lufs(spread.mean()!);
    const expected = plainly(powers);
    expect(Math.abs(lufs(spread.mean(loud - 10)!) - expected.integrated)).toBeLessThan(0.01);
    expect(Math.abs(spread.between(0.1, 0.95, loud - 20) - expected.range)).toBeLessThan(0.02);
  });

  it('has nothing to say of silence, nor after it has been cleared', () => {
    const spread = new Spread();
    spread.add(0);
    expect(spread.mean()).toBeUndefined();
    spread.add(0.01);
    spread.clear();
    expect(spread.mean()).toBeUndefined();
  });
});
