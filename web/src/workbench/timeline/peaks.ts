/** Peaks of media at several resolutions, fetched once. */

export interface Peaks {
  /** Samples a peak stands for. */
  size: number;
  /** Smallest, largest and RMS of each, full scale 32767. */
  data: Int16Array;
}

const SIZES = [256, 1024, 4096, 16384, 65536];
const held = new Map<string, Peaks | Promise<Peaks | undefined>>();

export function sizeFor(samplesPerPixel: number): number {
  return SIZES.findLast((size) => size <= samplesPerPixel) ?? SIZES[0]!;
}

/** Peaks if they are here; else they are fetched and `arrived` is called. */
export function peaksOf(media: string, size: number, arrived: () => void): Peaks | undefined {
  const name = `${media}/${size}`;
  const found = held.get(name);
  if (found instanceof Promise) {
    void found.then(arrived);
    return undefined;
  }
  if (found) return found;
  const load = fetch(`/api/media/${media}/peaks-${size}.i16`).then(async (response) => {
    if (!response.ok) {
      held.delete(name);
      return undefined;
    }
    const peaks = { size, data: new Int16Array(await response.arrayBuffer()) };
    held.set(name, peaks);
    return peaks;
  });
  held.set(name, load);
  void load.then(arrived, () => held.delete(name));
  return undefined;
}

/** Single samples, in pages as the server serves them. */
export const PAGE = 65_536;
/** Below so many samples a pixel, samples are drawn instead of peaks. */
export const SAMPLES_BELOW = 200;
const pages = new Map<string, Int16Array | 'loading'>();
const MOST_PAGES = 60;

function pageOf(media: string, page: number, arrived: () => void): Int16Array | undefined {
  const name = `${media}/${page}`;
  const found = pages.get(name);
  if (found === 'loading') return undefined;
  if (found) return found;
  pages.set(name, 'loading');
  void fetch(`/api/media/${media}/samples-${page}.i16`).then(
    async (response) => {
      if (!response.ok) return;
      pages.set(name, new Int16Array(await response.arrayBuffer()));
      for (const old of pages.keys()) {
        if (pages.size <= MOST_PAGES) break;
        pages.delete(old);
      }
      arrived();
    },
    () => pages.delete(name),
  );
  return undefined;
}

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
    const data = pageOf(media, page, arrived);
    if (!data) continue;
    const a = Math.max(from, page * PAGE);
    const b = Math.min(to, page * PAGE + data.length);
    for (let i = a; i < b; i++) out[i - from] = data[i - page * PAGE]! / 32767;
  }
  return out;
}
