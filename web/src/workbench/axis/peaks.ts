/** Peaks of media at several resolutions, fetched once. */
import { Parts } from './parts';

export interface Peaks {
  /** Samples a peak stands for. */
  size: number;
  /** Smallest, largest and RMS of each, full scale 32767. */
  data: Int16Array;
}

const SIZES = [256, 1024, 4096, 16384, 65536];
const MOST_PAGES = 60;
const peaks = new Parts((data) => new Int16Array(data));
const pages = new Parts((data) => new Int16Array(data), MOST_PAGES);

export function sizeFor(samplesPerPixel: number): number {
  return SIZES.findLast((size) => size <= samplesPerPixel) ?? SIZES[0]!;
}

/** Peaks if they are here; else they are fetched and `arrived` is called. */
export function peaksOf(media: string, size: number, arrived: () => void): Peaks | undefined {
  const data = peaks.get(`${media}/peaks-${size}.i16`, arrived);
  return data && { size, data };
}

/** Single samples, in pages as the server serves them. */
export const PAGE = 65_536;
/** Below so many samples a pixel, samples are drawn instead of peaks. */
export const SAMPLES_BELOW = 200;

/** Samples `[from, to)` as far as they are here, full scale 1; the rest is fetched. */
export function samplesOf(
  media: string,
  from: number,
  to: number,
  arrived: () => void,
): Float32Array {
  const out = new Float32Array(Math.max(0, to - from)).fill(NaN);
  for (let page = Math.floor(from / PAGE); page * PAGE < to; page++) {
    if (page < 0) continue;
    const data = pages.get(`${media}/samples-${page}.i16`, arrived);
    if (!data) continue;
    const a = Math.max(from, page * PAGE);
    const b = Math.min(to, page * PAGE + data.length);
    for (let i = a; i < b; i++) out[i - from] = data[i - page * PAGE]! / 32767;
  }
  return out;
}
