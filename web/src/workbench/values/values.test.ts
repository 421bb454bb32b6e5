import { describe, expect, it } from 'vitest';
import { formatValue, readValue, shareOf, valueAt } from './values';

const hz = { unit: 'Hz', low: 60, high: 20000, scale: 'log', whole: false };
const db = { unit: 'dB', low: -96, high: 12, scale: 'db', whole: false };
const ms = { unit: 'ms', low: 1, high: 10000, scale: 'log', whole: false };

describe('values', () => {
  it('reads numbers with units', () => {
    expect(readValue(hz, '620 Hz')).toBe(620);
    expect(readValue(hz, '1.2 kHz')).toBe(1200);
    expect(readValue(ms, '1,4 s')).toBe(1400);
    expect(readValue(db, '−12')).toBe(-12);
    expect(readValue(db, '-200')).toBe(-96);
    expect(readValue(db, 'loud')).toBeUndefined();
  });
  it('reads times in frames, metres and beats, where they are known', () => {
    const units = { f: 40, m: 5.8, beat: 500 };
    expect(readValue(ms, '12 f', units)).toBe(480);
    expect(readValue(ms, '1/2 beat', units)).toBe(250);
    expect(readValue(ms, '2 beats', units)).toBe(1000);
    expect(readValue(ms, '50 m', units)).toBeCloseTo(290);
    expect(readValue(ms, '12 f')).toBeUndefined();
    expect(readValue(db, '12 f', units)).toBeUndefined();
  });
  it('shows them as one would say them', () => {
    expect(formatValue(hz, 620)).toBe('620 Hz');
    expect(formatValue(db, -12)).toBe('−12.0 dB');
    expect(formatValue(db, -96)).toBe('silent');
  });
  it('lays them on a travel and back', () => {
    for (const p of [hz, db, ms])
      for (const share of [0, 0.25, 0.5, 0.9, 1])
        expect(shareOf(p, valueAt(p, share))).toBeCloseTo(share, 2);
    expect(valueAt(hz, 0.5)).toBeCloseTo(Math.sqrt(60 * 20000), -2);
  });
});
