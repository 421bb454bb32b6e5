/** Copied keyframes; they outlive the window, so they can go into another reel. */
import { storedList, storeList } from '../../ui/stored';

export interface CopiedKey {
  lane: string;
  /** Sample of the reel. */
  place: number;
  value: number;
  /** Where the value lay on its lane's scale, for lanes of another unit. */
  share: number;
  unit: string;
  ease: string;
  bend: number;
  soft: number;
}

const KEY = 'bathyphon.copied-keyframes';

export const keepKeys = (keys: CopiedKey[]) => storeList(KEY, keys);

export const copiedKeys = () => storedList<CopiedKey>(KEY);
