import { expect, it } from 'vitest';
import { valueOn } from './curve';

const fade = [
  { at: 0, value: 0 },
  { at: 100, value: -96 },
];

it('a level that ends in silence moves in amplitude, as the sound does', () => {
  expect(valueOn(fade, 'db', 50)).toBeCloseTo(20 * Math.log10(0.5), 6);
  expect(valueOn(fade, 'db', 100)).toBe(-96);
  expect(valueOn([...fade].map((p) => ({ ...p, at: 100 - p.at })).reverse(), 'db', 25)).toBeCloseTo(
    20 * Math.log10(0.25),
    6,
  );
  // In older documents it goes straight.
  expect(valueOn(fade, 'linear', 50)).toBe(-48);
});

it('between levels that are heard it moves in decibels', () => {
  const points = [
    { at: 0, value: 0 },
    { at: 100, value: -40 },
  ];
  expect(valueOn(points, 'db', 50)).toBe(-20);
});
