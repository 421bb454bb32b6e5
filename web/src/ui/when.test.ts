import { expect, test } from 'vitest';
import { timeOrDay, whenOf } from './when';

test('what is not of today says of which day it is', () => {
  const moment = '2026-11-30T23:59:30';
  const [before, after] = ['2026-11-30T23:59:59', '2026-12-01T00:00:00'].map((m) => new Date(m));
  expect(timeOrDay(moment, before)).not.toContain('2026');
  expect(timeOrDay(moment, after)).toBe(whenOf(moment));
  expect(whenOf(moment)).toContain('2026');
});
