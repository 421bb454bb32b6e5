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
