import { describe, expect, it } from 'vitest';
import fixtures from './clock.fixtures.json';
import { lengthText, makeClock } from './clock';

describe('the clock agrees with the server’s', () => {
  for (const { rate, sampleRate, drop, rows } of fixtures) {
    it(`${rate} at ${sampleRate} Hz${drop ? ', drop-frame' : ''}`, () => {
      const clock = makeClock(rate, sampleRate, drop);
      for (const [frame, sample, timecode] of rows as [number, number, string][]) {
        expect(clock.sampleOfFrame(frame)).toBe(sample);
        expect(clock.frameOfSample(sample)).toBe(frame);
        expect(clock.frameOfSample(sample + 1)).toBe(frame);
        if (sample > 0) expect(clock.frameOfSample(sample - 1)).toBe(frame - 1);
        expect(clock.timecodeOfFrame(frame)).toBe(timecode);
        expect(clock.parse(timecode)).toBe(sample);
      }
    });
  }
});

describe('reading and writing', () => {
  const clock = makeClock('25/1', 48000, false, '01:00:00:00');
  it('counts from the start timecode', () => {
    expect(clock.timecode(48000)).toBe('01:00:01:00');
    expect(clock.parse('01:00:01:00')).toBe(48000);
    expect(clock.parse('00:59:00:00')).toBeUndefined();
    expect(clock.parse('soon')).toBeUndefined();
  });
  it('says lengths in seconds and frames', () => {
    expect(lengthText(clock, 48000 * 20 + 1920 * 3)).toBe('20 s 03 f');
  });
});
