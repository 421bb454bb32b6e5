import { describe, expect, it } from 'vitest';
import { piecesOf, upcoming, wanted, type Ask, type Want } from './plan';

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

  it('begins with what is played within half a second, in pieces, then whole blocks', () => {
    expect(wanted(at(2450), GRID, LENGTH, false, none).slice(0, 3)).toEqual([
      { side: 'treated', index: 2, part: 2, parts: 3 },
      { side: 'treated', index: 2, part: undefined },
      { side: 'treated', index: 3, part: undefined },
    ]);
    expect(wanted(at(2050), GRID, LENGTH, false, none)[0]).toEqual({
      side: 'treated',
      index: 2,
      part: 0,
      parts: 3,
    });
  });

  it('asks for what is still missing of it, two pieces at least', () => {
    const fresh = (ask: Ask) => ask.index === 2 && ask.part !== undefined && ask.part < 2;
    expect(wanted(at(2050), GRID, LENGTH, false, fresh)[0]).toEqual({
      side: 'treated',
      index: 2,
      part: 2,
      parts: 2,
    });
  });

  it('goes over the end of a second, and leaves a second that is as good as over for the end', () => {
    const asks = wanted(at(2850), GRID, LENGTH, false, none);
    expect(asks.slice(0, 3)).toEqual([
      { side: 'treated', index: 2, part: 4 },
      { side: 'treated', index: 3, part: 0, parts: 2 },
      { side: 'treated', index: 3, part: undefined },
    ]);
    const wholes = asks.filter(({ side, part }) => side === 'treated' && part === undefined);
    expect(wholes.map(({ index }) => index)).toEqual([3, 4, 5, 6, 2]);
    // A little before, the next second may still come as a whole.
    expect(wanted(at(2650), GRID, LENGTH, false, none).slice(0, 2)).toEqual([
      { side: 'treated', index: 2, part: 3, parts: 2 },
      { side: 'treated', index: 2, part: undefined },
    ]);
    // Whoever does not play may want to play it.
    const paused = wanted(at(2850, { playing: false }), GRID, LENGTH, false, none);
    expect(paused.slice(0, 3)).toEqual([
      { side: 'treated', index: 2, part: 4 },
      { side: 'treated', index: 2, part: undefined },
      { side: 'treated', index: 3, part: undefined },
    ]);
    // The reel's last piece has none after it.
    expect(wanted(at(19_990), GRID, LENGTH, false, none)[0]).toEqual({
      side: 'treated',
      index: 19,
      part: 4,
    });
  });

  it('asks for whole seconds that come before they are over, however long they take', () => {
    const wholes = (took: number, more: Partial<Want> = {}, position = 2300) =>
      wanted(at(position, more), GRID, LENGTH, false, none, { took })
        .filter(({ side, part }) => side === 'treated' && part === undefined)
        .map(({ index }) => index);
    expect(wholes(0.05)).toEqual([2, 3, 4, 5, 6]);
    expect(wholes(0.8)).toEqual([3, 4, 5, 6, 2]);
    expect(wholes(2)).toEqual([4, 5, 6, 2, 3]);
    // One that takes longer than all that is asked for comes too late anyway.
    expect(wholes(10)).toEqual([2, 3, 4, 5, 6]);
    expect(wholes(0.8, { playing: false })).toEqual([2, 3]);
    // What lies before the playhead comes after the loop's end.
    const loop = { start: 1500, end: 3800 };
    expect(wholes(2, { loop }, 3300)).toEqual([1, 2, 3]);
  });

  it('goes over the end of a second where one has just gone: it ends before the next one comes', () => {
    const asks = wanted(at(2640), GRID, LENGTH, false, none, { begins: true });
    expect(asks.slice(0, 3)).toEqual([
      { side: 'treated', index: 2, part: 3, parts: 2 },
      { side: 'treated', index: 3, part: 0, parts: 2 },
      { side: 'treated', index: 3, part: undefined },
    ]);
    const wholes = asks.filter(({ side, part }) => side === 'treated' && part === undefined);
    expect(wholes.map(({ index }) => index)).toEqual([3, 4, 5, 6, 2]);
    // So does the beginning of a loop, where one has gone to shortly before its end.
    const loop = { start: 10_100, end: 12_000 };
    const wraps = wanted(at(11_640, { loop }), GRID, LENGTH, false, none, { begins: true });
    expect(wraps.slice(0, 3)).toEqual([
      { side: 'treated', index: 11, part: 3, parts: 2 },
      { side: 'treated', index: 10, part: 0, parts: 2 },
      { side: 'treated', index: 10, part: undefined },
    ]);
    // Where there is enough of it, it comes whole.
    expect(wanted(at(2300), GRID, LENGTH, false, none, { begins: true }).slice(0, 2)).toEqual([
      { side: 'treated', index: 2, part: 1, parts: 3 },
      { side: 'treated', index: 2, part: undefined },
    ]);
  });

  it('asks for as many parts together as come in time, and never beyond their block', () => {
    const asks = (position: number, most: number) =>
      wanted(at(position), GRID, LENGTH, false, none, { most }).filter(
        (ask) => ask.part !== undefined,
      );
    expect(asks(2050, 2)[0]).toEqual({ side: 'treated', index: 2, part: 0, parts: 3 });
    expect(asks(2050, 5)[0]).toEqual({ side: 'treated', index: 2, part: 0, parts: 5 });
    expect(asks(2650, 5)).toEqual([{ side: 'treated', index: 2, part: 3, parts: 2 }]);
    expect(asks(2850, 5)[1]).toEqual({ side: 'treated', index: 3, part: 0, parts: 5 });
  });

  it('asks for each piece of a short loop once', () => {
    const asks = (loop: { start: number; end: number }) =>
      wanted(at(loop.start, { loop }), GRID, LENGTH, false, none).filter(
        ({ part }) => part !== undefined,
      );
    expect(asks({ start: 10_100, end: 10_150 })).toEqual([
      { side: 'treated', index: 10, part: 0, parts: 2 },
    ]);
    expect(asks({ start: 10_900, end: 11_100 })).toEqual([
      { side: 'treated', index: 10, part: 4 },
      { side: 'treated', index: 11, part: 0, parts: 2 },
    ]);
  });

  it('asks for pieces of what follows on a second that is there, if it is soon', () => {
    const fresh = (ask: Ask) => ask.index === 2 || (ask.index === 3 && ask.part === 0);
    const asks = (position: number, more: Partial<Want> = {}) =>
      wanted(at(position, more), GRID, LENGTH, false, fresh).slice(0, 2);
    const whole = { side: 'treated', index: 3, part: undefined };
    expect(asks(2850)).toEqual([{ side: 'treated', index: 3, part: 1, parts: 2 }, whole]);
    expect(asks(2650)[0]).toEqual(whole);
    expect(asks(2850, { playing: false })[0]).toEqual(whole);
    // Over the end of a loop it is the loop's beginning, from where that lies.
    const loop = { start: 1500, end: 2900 };
    expect(asks(2850, { loop })).toEqual([
      { side: 'treated', index: 1, part: 2, parts: 3 },
      { side: 'treated', index: 1, part: undefined },
    ]);
  });

  it('asks for pieces of the other side, too, while a control is turned', () => {
    const asks = wanted(at(2450, { side: 'other' }), GRID, LENGTH, true, none);
    expect(asks[0]).toEqual({ side: 'other', index: 2, part: 2, parts: 3 });
    expect(wanted(at(2450), GRID, LENGTH, true, none)[0]!.part).toBe(undefined);
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

  it('knows what is played within a stretch, over the end of a second, a loop and the reel', () => {
    const pieces = (want: Want, seconds: number) => piecesOf(want, GRID, LENGTH, seconds);
    expect(pieces(at(2650), 0.6)).toEqual([
      [2, 3],
      [2, 4],
      [3, 0],
      [3, 1],
    ]);
    expect(pieces(at(19_900), 0.6)).toEqual([[19, 4]]);
    const loop = { start: 10_100, end: 12_050 };
    expect(pieces(at(11_900, { loop }), 0.4)).toEqual([
      [11, 4],
      [12, 0],
      [10, 0],
      [10, 1],
    ]);
    // A loop that is shorter than what is asked is played again, and from behind it one goes to its
    // beginning, as the player does.
    expect(pieces(at(10_100, { loop: { start: 10_100, end: 10_150 } }), 1)).toEqual([
      [10, 0],
      [10, 0],
    ]);
    expect(pieces(at(12_900, { loop }), 0.2)).toEqual([
      [10, 0],
      [10, 1],
    ]);
    expect(wanted(at(12_900, { loop }), GRID, LENGTH, false, none).slice(0, 2)).toEqual([
      { side: 'treated', index: 10, part: 0, parts: 3 },
      { side: 'treated', index: 10, part: undefined },
    ]);
  });
});
