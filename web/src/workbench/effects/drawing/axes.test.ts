import { expect, test } from 'vitest';
import { shareOn, ticks, tickText, valueOn } from './axes';

const hertz = { label: 'Frequency', unit: 'Hz', low: 20, high: 20000, scale: 'log' };
const level = { label: 'Level', unit: 'dB', low: -36, high: 18, scale: 'linear' };

test('a value and its share belong together', () => {
  for (const axis of [hertz, level])
    for (const share of [0, 0.25, 0.9, 1])
      expect(shareOn(axis, valueOn(axis, share))).toBeCloseTo(share, 9);
  expect(valueOn(hertz, 2)).toBe(20000);
});

test('ticks are round and few', () => {
  expect(ticks(hertz)).toEqual([100, 1000, 10000]);
  expect(ticks(level)).toEqual([-20, 0]);
  expect(tickText(hertz, 10000)).toBe('10k');
  expect(tickText(level, -20)).toBe('−20');
});
