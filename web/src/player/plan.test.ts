import { describe, expect, it } from 'vitest';
import { upcoming, wanted, type Ask, type Want } from './plan';

const GRID = 1000;
const LENGTH = 20 * GRID;
const at = (position: number, more: Partial<Want> = {}): Want => ({
  side: 'treated',
  position,
  playing: true,
  loop: undefined,
  ...more,
});
const none = () => false;

describe('the order in which sound is asked for', () => {
  it('follows the playhead', () => {
    expect(upcoming(at(2500), GRID, LENGTH)).toEqual([2, 3, 4, 5, 6]);
    expect(upcoming(at(2500, { playing: false }), GRID, LENGTH)).toEqual([2, 3]);
    expect(upcoming(at(18_500), GRID, LENGTH)).toEqual([18, 19]);
  });

  it('comes to the beginning of a loop before it wraps', () => {
    const loop = { start: 10_000, end: 14_000 };
    expect(upcoming(at(13_000, { loop }), GRID, LENGTH)).toEqual([13, 10, 11, 12]);
    expect(upcoming(at(10_000, { loop }), GRID, LENGTH)).toEqual([10, 11, 12, 13]);
    expect(upcoming(at(16_000, { loop }), GRID, LENGTH)).toEqual([10, 11, 12, 13]);
    expect(upcoming(at(11_999, { loop }), GRID, LENGTH).slice(0, 3)).toEqual([11, 12, 13]);
    // A loop within one block needs no other.
    expect(upcoming(at(700, { loop: { start: 200, end: 900 } }), GRID, LENGTH)).toEqual([0]);
  });

  it('begins with the part at the playhead, then whole blocks', () => {
    const asks = wanted(at(2450), GRID, LENGTH, false, none);
    expect(asks.slice(0, 2)).toEqual([
      { side: 'treated', index: 2, part: 2 },
      { side: 'treated', index: 2, part: undefined },
    ]);
  });

  it('asks for the next part, too, as long as the whole is not there', () => {
    const asks = wanted(at(2590), GRID, LENGTH, false, none);
    expect(asks.slice(0, 3)).toEqual([
      { side: 'treated', index: 2, part: 2 },
      { side: 'treated', index: 2, part: undefined },
      { side: 'treated', index: 2, part: 3 },
    ]);
    expect(wanted(at(2990), GRID, LENGTH, false, none)[2]).toEqual({
      side: 'treated',
      index: 3,
      part: 0,
    });
  });

  it('asks for as many parts together as come in time, and never beyond their block', () => {
    const next = (position: number, most: number) =>
      wanted(at(position), GRID, LENGTH, false, none, most)[2];
    expect(next(2050, 2)).toEqual({ side: 'treated', index: 2, part: 1, parts: 2 });
    expect(next(2450, 5)).toEqual({ side: 'treated', index: 2, part: 3, parts: 2 });
    expect(next(2990, 5)).toEqual({ side: 'treated', index: 3, part: 0, parts: 5 });
    expect(next(2650, 5)).toEqual({ side: 'treated', index: 2, part: 4 });
  });

  it('asks for nothing that is held and right', () => {
    const fresh = (ask: Ask) => ask.index === 2;
    const asks = wanted(at(2450), GRID, LENGTH, false, fresh);
    expect(asks[0]).toEqual({ side: 'treated', index: 3, part: undefined });
    expect(wanted(at(2450), GRID, LENGTH, false, () => true)).toEqual([]);
  });

  it('holds the other side ready, but not while a control is turned', () => {
    const sides = (provisional: boolean) =>
      wanted(at(2450), GRID, LENGTH, provisional, none).map((a) => a.side);
    expect(sides(false).slice(-2)).toEqual(['other', 'other']);
    expect(sides(true)).not.toContain('other');
  });
});
