/** How large waves are drawn: all by one factor, and single clips as large as they fit. */
import { create } from 'zustand';
import { storedList, storeList } from '../../ui/stored';
import { firstValue, type Clip } from '../../reel/document';
import { placeIn, type Outline } from '../../time/outline';
import { peaksIn } from './drawWave';

const SIZE = 'bathyphon.wave-size';
const FITTED = 'bathyphon.waves-fitted';
/** The largest amplitude of a clip is looked for in so many parts. */
const PARTS = 256;
/** Silence is not blown up to noise. */
const MOST = 1000;

export const WAVE_SIZES = [1, 2, 4, 8, 16] as const;

interface WaveSize {
  factor: number;
  /** Clips whose wave fills its height, whatever the factor. */
  fitted: ReadonlySet<string>;
  setFactor: (factor: number) => void;
  toggleFitted: (clips: readonly string[]) => void;
}

export const useWaveSize = create<WaveSize>()((set, get) => ({
  factor: WAVE_SIZES.find((f) => f === storedList<number>(SIZE)[0]) ?? 1,
  fitted: new Set(storedList<string>(FITTED)),
  setFactor: (factor) => {
    storeList(SIZE, [factor]);
    set({ factor });
  },
  toggleFitted: (clips) => {
    const now = new Set(get().fitted);
    const all = clips.every((id) => now.has(id));
    for (const id of clips) {
      if (all) now.delete(id);
      else now.add(id);
    }
    storeList(FITTED, [...now]);
    set({ fitted: now });
  },
}));

/**
 * The factor by which a clip's wave is drawn larger than its medium is.
 *
 * @param outline Where in its medium each moment of it lies.
 * @param own Samples of the medium for one of the reel.
 */
export function waveGain(
  clip: Clip,
  outline: Outline,
  own: number,
  { factor, fitted }: Pick<WaveSize, 'factor' | 'fitted'>,
  arrived: () => void,
): number {
  const level = 10 ** (firstValue(clip.gain_db, 0) / 20);
  if (!fitted.has(clip.id)) return level * factor;
  const from = placeIn(clip, outline, 0) * own;
  const step = (placeIn(clip, outline, clip.length) * own - from) / PARTS;
  const peaks = peaksIn(clip.media, from, Math.max(1, step), PARTS, arrived);
  const most = Math.max(0, ...peaks);
  return most > 0 ? Math.min(MOST, 1 / most) : level;
}
