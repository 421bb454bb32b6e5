import { describe, expect, it } from 'vitest';
import {
  ALL_CLOSED,
  openOf,
  clipsOf,
  isSelected,
  partsOf,
  several,
  treatmentsOf,
  withPart,
  type Part,
} from './selection';

const clip = (id: string): Part => ({ kind: 'clip', id });
const treatment = (id: string): Part => ({ kind: 'treatment', id });

describe('several parts', () => {
  it('keeps clips and treatments apart, whatever their ids', () => {
    const all = several([treatment('a'), clip('a'), clip('b')]);
    expect(all).toEqual({ kind: 'treatment', id: 'a', also: [clip('a'), clip('b')] });
    expect([clipsOf(all), treatmentsOf(all)]).toEqual([['a', 'b'], ['a']]);
    expect(isSelected(all, clip('c'))).toBe(false);
  });

  it('adds one, takes it out again, and is nothing in the end', () => {
    let now = withPart({ kind: 'mix' }, clip('a'));
    now = withPart(now, treatment('a'));
    now = withPart(now, clip('a'));
    expect(now).toEqual(treatment('a'));
    expect(withPart(now, treatment('a'))).toEqual({ kind: 'none' });
    expect(partsOf({ kind: 'range', tracks: ['t'], start: 0, end: 1 })).toEqual([]);
  });
});

describe('the effect that is open', () => {
  const effects = [{ id: 'a' }, { id: 'b' }];

  it('is the one that was opened, and the first by itself', () => {
    expect(openOf(effects, 'b')).toBe(effects[1]);
    expect(openOf(effects, undefined)).toBe(effects[0]);
    expect(openOf(effects, 'gone')).toBe(effects[0]);
    expect(openOf([], undefined)).toBeUndefined();
    expect(openOf(effects, ALL_CLOSED)).toBeUndefined();
  });
});
