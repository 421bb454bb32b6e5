import { describe, expect, it } from 'vitest';
import type { Clip } from '../reel/document';
import { evenStretches, placeIn } from './outline';

const clip: Clip = { id: 'c', media: 'm', start: 100, length: 1000, source_start: 50 };

describe('places of a clip in its medium', () => {
  it('go alike without an outline, from where its window begins', () => {
    expect(placeIn(clip, undefined, 10)).toBe(60);
    expect(placeIn({ ...clip, speed: { origin: 7 } }, undefined, 10)).toBe(67);
  });

  it('follow the outline, and go on beyond its ends', () => {
    const outline = [
      [0, 50],
      [1000, 2050],
    ];
    expect(placeIn(clip, outline, 500)).toBe(1050);
    expect(placeIn(clip, outline, -10)).toBe(30);
    expect(placeIn(clip, outline, 1100)).toBe(2250);
  });

  it('fall into even stretches', () => {
    const outline = [
      [0, 50],
      [400, 450],
      [1000, 450],
    ];
    const found = evenStretches(clip, outline, 200, 900);
    expect(found.map((s) => [s.from, s.to])).toEqual([
      [200, 400],
      [400, 900],
    ]);
    expect(found[0]!.source[0]).toBeCloseTo(250);
    expect(found[0]!.source[1]).toBeCloseTo(450);
    expect(found[1]!.source[1]).toBeCloseTo(450);
  });
});
