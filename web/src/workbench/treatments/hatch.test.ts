import { describe, expect, it } from 'vitest';
import { tile, type Hatch } from './hatch';

const hatch = (more: Partial<Hatch>): Hatch => ({
  kind: 'lines',
  angle: 0,
  spacing: 8,
  weight: 1,
  dash: [],
  ...more,
});

describe('a hatch', () => {
  it('is another for every kind', () => {
    const kinds = ['lines', 'waves', 'dots', 'rings', 'steps', 'crossed'] as const;
    const paths = kinds.map((kind) => tile(hatch({ kind })).path);
    expect(new Set(paths).size).toBe(kinds.length);
  });

  it('repeats after its spacing, or after whole dashes', () => {
    expect(tile(hatch({ spacing: 6 }))).toMatchObject({ width: 6, height: 6 });
    expect(tile(hatch({ dash: [4, 2, 1, 2] }))).toMatchObject({ width: 9, height: 8 });
  });

  it('fills dots, and draws all else as lines', () => {
    expect(tile(hatch({ kind: 'dots', weight: 4 })).filled).toBe(true);
    expect(tile(hatch({ kind: 'rings' })).filled).toBe(false);
  });
});
