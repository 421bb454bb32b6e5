/** Waves on a canvas. */
import { peaksOf, SAMPLES_BELOW, samplesOf, sizeFor } from './peaks';

/** A stretch of a medium, and the size at which it is drawn. */
export interface WavePart {
  media: string;
  /** First sample of the medium, and how many, over the width. */
  from: number;
  samples: number;
  width: number;
  height: number;
  /** Amplitude factor. */
  gain: number;
}

const DOTS_BELOW = 0.2;
/** Samples a pixel from which each pixel shows what its samples span. */
const LINES_BELOW = 2;

/** What the samples of each pixel span, joined to the sample before, so that no gap shows. */
function columns(
  wave: Float32Array,
  x: (i: number) => number,
  draw: (x: number, least: number, most: number) => void,
) {
  let column = NaN;
  let least = 0;
  let most = 0;
  for (let i = 0; i < wave.length; i++) {
    const v = wave[i]!;
    const at = Math.floor(x(i));
    if (at !== column) {
      if (!Number.isNaN(column) && !Number.isNaN(least)) draw(column, least, most);
      const before = i > 0 ? wave[i - 1]! : v;
      column = at;
      least = Math.min(v, Number.isNaN(before) ? v : before);
      most = Math.max(v, Number.isNaN(before) ? v : before);
    } else if (v < least) least = v;
    else if (v > most) most = v;
  }
  if (!Number.isNaN(column) && !Number.isNaN(least)) draw(column, least, most);
}

/** The wave itself, close up: lines from sample to sample, and dots when they lie far apart. */
function drawSamples(
  g: CanvasRenderingContext2D,
  ink: string,
  { media, from, samples, width, height, gain }: WavePart,
  arrived: () => void,
) {
  const first = Math.floor(from);
  const wave = samplesOf(media, first, Math.ceil(from + samples) + 1, arrived);
  const perPixel = samples / width;
  const y = (v: number) =>
    Math.max(0.5, Math.min(height - 0.5, height / 2 - v * (height / 2 - 1) * gain));
  g.strokeStyle = g.fillStyle = ink;
  if (perPixel > LINES_BELOW) {
    // A line through every sample would be the same ink a hundred times over.
    columns(
      wave,
      (i) => (first + i - from) / perPixel,
      (x, least, most) => g.fillRect(x, y(most) - 0.5, 1, y(least) - y(most) + 1),
    );
    return;
  }
  g.lineWidth = 1.2;
  g.beginPath();
  let drawing = false;
  wave.forEach((v, i) => {
    if (Number.isNaN(v)) {
      drawing = false;
      return;
    }
    const x = (first + i - from) / perPixel;
    if (drawing) g.lineTo(x, y(v));
    else g.moveTo(x, y(v));
    drawing = true;
    if (perPixel < DOTS_BELOW) g.fillRect(x - 2, y(v) - 2, 4, 4);
  });
  g.stroke();
}

/**
 * A wave in ink, its left upper corner where the canvas's origin is: outline of the peaks, with the
 * RMS darker inside. `arrived` is called when data that is still missing has come.
 */
export function drawWave(
  g: CanvasRenderingContext2D,
  ink: string,
  part: WavePart,
  arrived: () => void,
) {
  const { media, from, samples, width, height, gain } = part;
  if (samples / width < SAMPLES_BELOW) {
    drawSamples(g, ink, part, arrived);
    return;
  }
  const peaks = peaksOf(media, sizeFor(samples / Math.max(1, width)), arrived);
  if (!peaks) return;
  const middle = height / 2;
  const reach = (height / 2 - 1) * gain;
  const perPixel = samples / width;
  const count = peaks.data.length / 3;
  const low = new Float32Array(Math.ceil(width));
  const high = new Float32Array(Math.ceil(width));
  const rms = new Float32Array(Math.ceil(width));
  for (let x = 0; x < low.length; x++) {
    const a = Math.floor((from + x * perPixel) / peaks.size);
    const b = Math.max(a + 1, Math.ceil((from + (x + 1) * perPixel) / peaks.size));
    let least = 0;
    let most = 0;
    let power = 0;
    let n = 0;
    for (let i = Math.max(0, a); i < Math.min(b, count); i++) {
      least = Math.min(least, peaks.data[3 * i]!);
      most = Math.max(most, peaks.data[3 * i + 1]!);
      power += (peaks.data[3 * i + 2]! / 32767) ** 2;
      n++;
    }
    low[x] = least / 32767;
    high[x] = most / 32767;
    rms[x] = n ? Math.sqrt(power / n) : 0;
  }
  const y = (v: number) => Math.max(0.5, Math.min(height - 0.5, middle - v * reach));
  const fill = (up: Float32Array, down: Float32Array, sign: number, alpha: number) => {
    g.globalAlpha = alpha;
    g.beginPath();
    g.moveTo(0, middle);
    for (let x = 0; x < up.length; x++) g.lineTo(x, y(up[x]!) - 0.4);
    for (let x = down.length - 1; x >= 0; x--) g.lineTo(x, y(sign * down[x]!) + 0.4);
    g.closePath();
    g.fill();
  };
  g.fillStyle = ink;
  fill(high, low, 1, 0.55);
  fill(rms, rms, -1, 1);
  g.globalAlpha = 1;
}

/** Largest amplitude of each of some pixels, 0 to 1; nothing while the data has not come. */
export function peaksIn(
  media: string,
  from: number,
  samplesPerPixel: number,
  pixels: number,
  arrived: () => void,
): number[] {
  const peaks = peaksOf(media, sizeFor(samplesPerPixel), arrived);
  if (!peaks) return [];
  const { data, size } = peaks;
  return Array.from({ length: pixels }, (_, px) => {
    const at = from + px * samplesPerPixel;
    const a = Math.max(0, Math.floor(at / size));
    const b = Math.max(a + 1, Math.floor((at + samplesPerPixel) / size));
    let most = 0;
    for (let i = a; i < b && 3 * i + 1 < data.length; i++)
      most = Math.max(most, data[3 * i + 1]! / 32767, -data[3 * i]! / 32767);
    return most;
  });
}
