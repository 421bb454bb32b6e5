import { describe, expect, it } from 'vitest';
import { extended, PAST } from './extend';

const tone = (i: number) =>
  0.3 * Math.sin(0.0288 * i) + 0.1 * Math.sin(0.31 * i + 1) + 0.02 * Math.cos(1.7 * i);

describe('what follows on a sound', () => {
  it('is what tones go on with', () => {
    for (const from of [0, 37, 101, 500]) {
      const past = Float32Array.from({ length: PAST }, (_, i) => tone(from + i));
      const next = extended(past, 240);
      for (let i = 0; i < 240; i++)
        expect(Math.abs(next[i]! - tone(from + PAST + i))).toBeLessThan(0.02);
      expect(Math.abs(next[0]! - tone(from + PAST))).toBeLessThan(1e-3);
    }
  });

  it('is silence after silence, and never grows', () => {
    expect(extended(new Float32Array(PAST), 240).every((v) => v === 0)).toBe(true);
    let seed = 1;
    const random = () => (seed = (seed * 48271) % 2147483647) / 2147483647 - 0.5;
    for (let turn = 0; turn < 50; turn++) {
      const past = Float32Array.from({ length: PAST }, () => random() * (turn % 2 ? 1 : random()));
      const most = Math.max(...past.map(Math.abs));
      expect(Math.max(...extended(past, 240).map(Math.abs))).toBeLessThanOrEqual(2 * most);
    }
  });

  it('holds of a very short sound what there is', () => {
    expect(extended(new Float32Array(0), 10).every((v) => v === 0)).toBe(true);
    expect(extended(Float32Array.of(0.5, 0.5, 0.5, 0.5), 3).every(Number.isFinite)).toBe(true);
  });
});
