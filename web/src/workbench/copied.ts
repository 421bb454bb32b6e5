/** What was copied last, of whatever kind: that is what a paste means. */
import { storedList, storeList } from '../ui/stored';
import type { Clip } from '../reel/document';

export type Kind = 'keys' | 'clips' | 'treatment';

const LAST = 'bathyphon.copied-last';
const CLIPS = 'bathyphon.copied-clips';

export interface CopiedClip {
  clip: Clip;
  /** The reel it comes from, and that reel's rate. */
  reel: string;
  rate: number;
  /** The track it lay on. */
  track: string;
  /** The medium's name on the shelf, for a reel that does not have it yet. */
  path: string;
}

export const copiedLast = (): Kind | undefined => storedList<Kind>(LAST)[0];

export const noteCopied = (kind: Kind) => storeList(LAST, [kind]);

/** Copied clips outlive the window, so they can go into another reel. */
export const copiedClips = () => storedList<CopiedClip>(CLIPS);

export const keepClips = (clips: CopiedClip[]) => storeList(CLIPS, clips);
