/** What the meters cost: run by `bench/looking.py`. */
import { bench } from 'vitest';
import { Meter } from './meter';

const RATE = 48_000;
const QUANTUM = 128;
const meter = new Meter(RATE);
const sides = [0, 1].map((side) =>
  new Float32Array(QUANTUM).map((_, i) => 0.8 * Math.sin(i * (0.2 + 0.1 * side))),
);

// As compiled as it is after a while of playing.
bench(
  'a second of sound',
  () => {
    for (let n = 0; n < RATE / QUANTUM; n++) meter.add(sides[0]!, sides[1]!);
  },
  { time: 4000, warmupTime: 3000 },
);
