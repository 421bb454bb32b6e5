import { describe, expect, it } from 'vitest';
import { DIFFERENCES, LEVELS } from './colours';

/** Relative luminance (WCAG 2.2). */
function luminance(pixel: number): number {
  const linear = [pixel & 255, (pixel >> 8) & 255, (pixel >> 16) & 255].map((v) => {
    const share = v / 255;
    return share <= 0.04045 ? share / 12.92 : ((share + 0.055) / 1.055) ** 2.4;
  });
  return 0.2126 * linear[0]! + 0.7152 * linear[1]! + 0.0722 * linear[2]!;
}

/** Lightness as it is seen (CIE L*). */
function lightness(pixel: number): number {
  const y = luminance(pixel);
  return y > 0.008856 ? 116 * Math.cbrt(y) - 16 : 903.3 * y;
}

describe('colours of levels', () => {
  it('get lighter with every step, evenly', () => {
    const steps = [...LEVELS].map(lightness);
    for (let i = 8; i < steps.length; i++) expect(steps[i]! - steps[i - 8]!).toBeGreaterThan(1.2);
    expect(steps.at(-1)! - steps[0]!).toBeGreaterThan(80);
  });

  it('of a difference are lightest where there is none', () => {
    const steps = [...DIFFERENCES].map(lightness);
    for (let i = 16; i < 128; i++) {
      expect(steps[i]!).toBeGreaterThanOrEqual(steps[i - 16]!);
      expect(steps[255 - i]!).toBeGreaterThanOrEqual(steps[255 - i + 16]!);
    }
    const [less, more] = [DIFFERENCES[0]!, DIFFERENCES[255]!];
    // Told apart by blue and yellow, which nearly everybody can.
    expect(((less >> 16) & 255) - ((more >> 16) & 255)).toBeGreaterThan(80);
  });
});
