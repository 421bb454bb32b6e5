import { describe, expect, it } from 'vitest';
import cases from '../../../tests/core/measure/meter.json';
import { Meter } from './meter';

interface Case {
  rate: number;
  seconds: number;
  tones: number[][];
  swell: number;
  found: Record<string, number | null>;
}

function made({ rate, seconds, tones, swell }: Case): [Float32Array, Float32Array] {
  const n = rate * seconds;
  const sides: [Float32Array, Float32Array] = [new Float32Array(n), new Float32Array(n)];
  for (let i = 0; i < n; i++) {
    const t = i / rate;
    const level = 0.5 + 0.5 * Math.cos(2 * Math.PI * swell * t);
    let [l, r] = [0, 0];
    for (const [hz, left, right] of tones) {
      l += 10 ** (left! / 20) * Math.sin(2 * Math.PI * hz! * t);
      r += 10 ** (right! / 20) * Math.sin(2 * Math.PI * hz! * t + 0.4);
    }
    sides[0][i] = l * level;
    sides[1][i] = r * level;
  }
  return sides;
}

describe('the meters', () => {
  it.each(cases as Case[])('read as the core does: %j', (one) => {
    const meter = new Meter(one.rate);
    const [left, right] = made(one);
    for (let at = 0; at < left.length; at += 128)
      meter.add(left.subarray(at, at + 128), right.subarray(at, at + 128));
    // The last samples have to come through the interpolation.
    meter.add(new Float32Array(64), new Float32Array(64));
    const levels = meter.levels() as unknown as Record<string, number | undefined>;
    for (const [name, value] of Object.entries(one.found))
      if (value === null) expect(levels[name]).toBeUndefined();
      else expect(Math.abs(levels[name]! - value)).toBeLessThan(0.01);
  });

  it('forget what was before a reset', () => {
    const meter = new Meter(48000);
    const loud = new Float32Array(48000).fill(0.5);
    meter.add(loud, loud);
    meter.reset();
    expect(meter.levels().truePeak).toBeUndefined();
    expect(meter.levels().integrated).toBeUndefined();
  });

  it('tell two sides that cancel from two that agree', () => {
    const meter = new Meter(48000);
    const wave = Float32Array.from({ length: 48000 }, (_, i) => Math.sin(i / 20) / 4);
    meter.add(wave, wave);
    expect(meter.levels().correlation).toBeCloseTo(1, 6);
    meter.add(
      wave,
      wave.map((x) => -x),
    );
    expect(meter.levels().correlation).toBeCloseTo(-1, 6);
  });
});
