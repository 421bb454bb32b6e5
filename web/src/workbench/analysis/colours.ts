/**
 * Colours of levels, readable by everybody: each step is as much lighter as the one before, whatever
 * colours one can tell apart, from the deep over blue and green to sand.
 *
 * B. Ottosson, “A perceptual color space for image processing”, 2020: lightness, chroma and hue that
 * are even to the eye.
 */

type Rgb = [number, number, number];

/** Lightness, chroma and hue in degrees, as sRGB from 0 to 255. */
function seen(lightness: number, chroma: number, hue: number): Rgb {
  const a = chroma * Math.cos((hue * Math.PI) / 180);
  const b = chroma * Math.sin((hue * Math.PI) / 180);
  const l = (lightness + 0.3963377774 * a + 0.2158037573 * b) ** 3;
  const m = (lightness - 0.1055613458 * a - 0.0638541728 * b) ** 3;
  const s = (lightness - 0.0894841775 * a - 1.291485548 * b) ** 3;
  const linear = [
    4.0767416621 * l - 3.3077115913 * m + 0.2309699292 * s,
    -1.2684380046 * l + 2.6097574011 * m - 0.3413193965 * s,
    -0.0041960863 * l - 0.7034186147 * m + 1.707614701 * s,
  ];
  return linear.map((v) => {
    const inside = Math.min(1, Math.max(0, v));
    const shown = inside <= 0.0031308 ? 12.92 * inside : 1.055 * inside ** (1 / 2.4) - 0.055;
    return Math.round(255 * shown);
  }) as Rgb;
}

const SHADES = 256;

function table(colour: (share: number) => Rgb): Uint32Array {
  return Uint32Array.from({ length: SHADES }, (_, i) => {
    const [r, g, b] = colour(i / (SHADES - 1));
    return ((255 << 24) | (b << 16) | (g << 8) | r) >>> 0;
  });
}

/** From silence to the loudest, as pixels in the order of a canvas. */
export const LEVELS = table((s) =>
  seen(0.13 + 0.83 * s, 0.05 + 0.09 * Math.sin(Math.PI * Math.min(1, 0.15 + s)), 262 - 172 * s),
);

/** Less, the same, more. */
export const DIFFERENCES = table((s) => {
  const far = Math.abs(2 * s - 1);
  return seen(0.95 - 0.5 * far, 0.15 * far, s < 0.5 ? 240 : 55);
});

/** The shade of a share from 0 to 1. */
export function shade(colours: Uint32Array, share: number): number {
  return colours[Math.min(SHADES - 1, Math.max(0, Math.round(share * (SHADES - 1))))]!;
}

export function cssOf(pixel: number): string {
  return `rgb(${pixel & 255} ${(pixel >> 8) & 255} ${(pixel >> 16) & 255})`;
}

/** The colour of one of several octaves, low ones dark: told apart by lightness too. */
export function octaveColour(index: number, count: number): number {
  const s = count > 1 ? index / (count - 1) : 0;
  const [r, g, b] = seen(0.36 + 0.32 * s, 0.13, 262 - 200 * s);
  return ((255 << 24) | (b << 16) | (g << 8) | r) >>> 0;
}
