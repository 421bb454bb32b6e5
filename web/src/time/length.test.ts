import { describe, expect, it } from 'vitest';
import { makeClock } from './clock';
import { readLength } from './length';

const clock = makeClock('25/1', 48000, false, '00:00:00:00');

describe('lengths', () => {
  it('are read in seconds, milliseconds, frames and timecode', () => {
    expect(readLength(clock, '10 s', 0)).toBe(480000);
    expect(readLength(clock, '9,5', 0)).toBe(456000);
    expect(readLength(clock, '40 ms', 0)).toBe(1920);
    expect(readLength(clock, '250 f', 1920)).toBe(480000);
    expect(readLength(clock, '00:00:10:00', 7)).toBe(480000);
  });

  it('keep frames where frames differ in their samples', () => {
    const ntsc = makeClock('30000/1001', 48000, false, '00:00:00:00');
    const start = ntsc.sampleOfFrame(1);
    expect(start + readLength(ntsc, '3 f', start)!).toBe(ntsc.sampleOfFrame(4));
  });

  it('are refused where they are none', () => {
    for (const text of ['', '0', '-3 s', '1:2:3:4:5', 'ten']) {
      expect(readLength(clock, text, 0)).toBeUndefined();
    }
  });
});
