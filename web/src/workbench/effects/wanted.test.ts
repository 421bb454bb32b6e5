import { expect, test } from 'vitest';
import type { EffectTable } from '../../api/client';
import { paramsFor, readWanted, said } from './wanted';

const row = (id: string, label: string, unit: string) => ({
  id, label, unit, low: -60, high: 20000, scale: 'linear', default: 0, neutral: 0, follows: '',
  movable: true, whole: false, choices: [], help: '',
}); // prettier-ignore
const muffle = {
  id: 'muffle',
  label: 'Muffle',
  telling: ['amount'],
  parameters: [
    row('amount', 'Amount', '%'),
    row('high_cut_hz', 'High cut', 'Hz'),
    row('low_cut_hz', 'Low cut', 'Hz'),
    row('level_db', 'Level', 'dB'),
  ],
} as unknown as EffectTable;

test('a name and values by their units', () => {
  const wanted = readWanted('muffle 3f, −12 dB 1.2 kHz');
  expect(wanted.words).toBe('muffle');
  expect(wanted.frames).toEqual([3]);
  expect(paramsFor(muffle, wanted)).toEqual({ level_db: -12, high_cut_hz: 1200 });
  expect(said(muffle, wanted)).toBe('High cut 1200 Hz, Level −12.0 dB, ramps 3 f');
});

test('a value that is named goes there', () => {
  const wanted = readWanted('muffle 5f 0f low 80 Hz');
  expect(wanted.frames).toEqual([5, 0]);
  expect(paramsFor(muffle, wanted)).toEqual({ low_cut_hz: 80 });
});

test('plain words stay words', () => {
  expect(readWanted('room for a voice')).toEqual({
    words: 'room for a voice',
    values: [],
    frames: [],
  });
});
