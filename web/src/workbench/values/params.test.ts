import { expect, test } from 'vitest';
import { setting, valueOf } from './params';

test('a parameter of a list is found and set in its place', () => {
  const params = { bands: [{ freq_hz: 100 }, { freq_hz: 200, gain_db: 3 }] };
  expect(valueOf(params, 'bands.1.gain_db')).toBe(3);
  expect(setting(params, 'bands.1.gain_db', -2)).toEqual({
    bands: [{ freq_hz: 100 }, { freq_hz: 200, gain_db: -2 }],
  });
  expect(params.bands[1]?.gain_db).toBe(3);
  expect(setting(params, 'mix', 50)).toEqual({ mix: 50 });
});
