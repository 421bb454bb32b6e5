import { describe, expect, it } from 'vitest';
import type { Treatment } from '../../reel/document';
import { overlap, rowsOf } from './order';

const spans = (...at: [number, number][]) =>
  at.map(([start, length], k): Treatment => ({ id: `f${k}`, start, length }));

/** As it is said: one below all that overlap it and come before it. */
function plainly(treatments: Treatment[]): Map<string, number> {
  const rows = new Map<string, number>();
  treatments.forEach((t, i) => {
    const above = treatments.slice(0, i).filter((o) => overlap(o, t));
    rows.set(t.id, Math.max(-1, ...above.map((o) => rows.get(o.id)!)) + 1);
  });
  return rows;
}

describe('rows of treatments', () => {
  it('are one below another where they overlap, whichever was first', () => {
    const rows = rowsOf(spans([100, 50], [0, 101], [150, 10], [-20, 400]));
    expect([...rows.values()]).toEqual([0, 1, 0, 2]);
  });

  it('are what the rule says, of spans drawn at random', () => {
    let seed = 7;
    const below = (n: number) => (seed = (seed * 48271) % 2147483647) % n;
    const drawn = spans(
      ...Array.from({ length: 400 }, (): [number, number] => [below(90_000) - 500, 1 + below(900)]),
    );
    expect(rowsOf(drawn)).toEqual(plainly(drawn));
  });

  it('of thousands that follow one another are one row', () => {
    const rows = rowsOf(
      spans(...Array.from({ length: 20_000 }, (_, k): [number, number] => [k * 10, 10])),
    );
    expect(Math.max(...rows.values())).toBe(0);
  });
});
