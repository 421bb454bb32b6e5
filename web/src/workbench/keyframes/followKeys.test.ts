import { describe, expect, it } from 'vitest';
import { followed } from './followKeys';

const lane = (places: number[]) => (name: string) => (name === 'a' ? places : []);
const keys = [
  { lane: 'a', at: 10 },
  { lane: 'a', at: 20 },
];

describe('selected keyframes', () => {
  it('are followed to where they have been moved, and back', () => {
    const moved = followed(keys, lane([10, 20, 90]), lane([15, 25, 90]));
    expect(moved.map((k) => k.at)).toEqual([15, 25]);
    expect(followed(moved, lane([15, 25, 90]), lane([10, 20, 90]))).toEqual(keys);
  });

  it('stay as they are where nothing can be told of them', () => {
    expect(followed(keys, lane([10, 20]), lane([10, 20]))).toBe(keys);
    expect(followed(keys, lane([10, 20]), lane([20]))).toBe(keys);
    expect(followed(keys, lane([10, 20]), lane([5, 10, 20]))).toBe(keys);
  });
});
