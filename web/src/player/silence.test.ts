import { describe, expect, it } from 'vitest';
import { Silence } from './silence';

describe('silence of the sound device', () => {
  it('grows with the frames that are drawn and ends with a word', () => {
    const silence = new Silence();
    for (let now = 5000; now < 6000; now += 20) silence.look(now);
    expect(silence.look(6000)).toBe(1000);
    silence.broken();
    expect(silence.look(6020)).toBe(20);
  });

  it('a page that stood still blames nobody', () => {
    const silence = new Silence();
    silence.look(0);
    expect(silence.look(30000)).toBe(100);
    silence.broken();
    expect(silence.look(30016)).toBe(16);
  });
});
