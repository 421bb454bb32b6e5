import { describe, expect, it } from 'vitest';
import { makeClock } from './clock';
import { readMoment } from './moment';

const clock = makeClock('25/1', 48000);
const frame = (n: number) => n * 1920;

describe('moments as people type them', () => {
  it.each([
    ['1:04:10', frame(64 * 25 + 10)],
    ['00:01:04:10', frame(64 * 25 + 10)],
    ['12', frame(12)],
    ['12f', frame(12)],
    ['1.5s', 72000],
    ['1,5 s', 72000],
    ['+12f', frame(112)],
    ['+12', frame(112)],
    ['−3 f', frame(97)],
    ['-1:00', frame(75)],
    ['-200f', 0],
  ])('%s', (text, sample) => {
    expect(readMoment(clock, text, frame(100))).toBe(sample);
  });
  it.each(['', 'soon', '1:99:00', '1:04:25', '1.5f', '1:2s', '1:2:3:4:5', '+1:x'])(
    '“%s” is none',
    (text) => {
      expect(readMoment(clock, text, 0)).toBeUndefined();
    },
  );
  it('counts from the reel’s start timecode', () => {
    const late = makeClock('25/1', 48000, false, '01:00:00:00');
    expect(readMoment(late, '1:00:01:00', 0)).toBe(48000);
  });
});
