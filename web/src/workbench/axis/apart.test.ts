import { expect, it } from 'vitest';
import { apart } from './apart';

it('keeps what can be told apart, in view', () => {
  const half = (v: number) => v / 2;
  expect(apart([0, 2, 3, 8, 20], half, 1)).toEqual([0, 1, 4, 10]);
  expect(apart([0, 2, 3, 8, 20], half, 1, 1.2, 5)).toEqual([1.5, 4]);
  expect(apart([], half, 1)).toEqual([]);
});
