import { describe, expect, it } from 'vitest';
import { formatValue, shareOf, valueAt } from './values';

const hz = { unit: 'Hz', low: 60, high: 20000, scale: 'log', whole: false };
const db = { unit: 'dB', low: -96, high: 12, scale: 'db', whole: false };
const ms = { unit: 'ms', low: 1, high: 10000, scale: 'log', whole: false };
const ratio = { unit: ':1', low: 1, high: 20, scale: 'log', whole: false };

describe('values', () => {
  it('shows them as one would say them', () => {
    expect(formatValue(hz, 620)).toBe('620 Hz');
    expect(formatValue(db, -12)).toBe('−12.0 dB');
    expect(formatValue(db, -0.04)).toBe('0.0 dB');
    expect(formatValue(db, -96)).toBe('silent');
    expect(formatValue(ratio, 4)).toBe('4:1');
  });
  it('lays them on a travel and back', () => {
    for (const p of [hz, db, ms])
      for (const share of [0, 0.25, 0.5, 0.9, 1])
        expect(shareOf(p, valueAt(p, share))).toBeCloseTo(share, 2);
    expect(valueAt(hz, 0.5)).toBeCloseTo(Math.sqrt(60 * 20000), -2);
  });
});
