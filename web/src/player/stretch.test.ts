import { describe, expect, it } from 'vitest';
import { Stretcher } from './stretch';

const RATE = 48000;
const HZ = 330;
const tone = (n: number): [number, number] => {
  const v = Math.sin((2 * Math.PI * HZ * n) / RATE);
  return [v, v];
};

function played(speed: number, seconds: number): number[] {
  const stretcher = new Stretcher(RATE);
  const out: number[] = [];
  for (let position = 4800; out.length < seconds * RATE; position += 960 * speed)
    out.push(...stretcher.next(Math.round(position), (n) => tone(n))![0]);
  return out.slice(4800);
}

describe('listening at another speed', () => {
  it.each([0.5, 2])('%d× holds the pitch and the level of a tone', (speed) => {
    const x = played(speed, 1);
    let crossings = 0;
    for (let i = 1; i < x.length; i++) if (x[i - 1]! < 0 && x[i]! >= 0) crossings++;
    expect((crossings * RATE) / x.length).toBeCloseTo(HZ, -0.7);
    const rms = Math.sqrt(x.reduce((sum, v) => sum + v * v, 0) / x.length);
    expect(rms).toBeGreaterThan(0.66);
    expect(rms).toBeLessThan(0.75);
  });
  it('waits for samples that are not there yet', () => {
    expect(new Stretcher(RATE).next(0, (n) => (n < 1000 ? [0, 0] : undefined))).toBeUndefined();
  });
});
