/** What was copied last, of whatever kind: that is what a paste means. */
import { storedList, storeList } from '../../ui/stored';
import type { Clip, Treatment } from '../../reel/document';

export type Kind = 'keys' | 'parts';

const LAST = 'bathyphon.copied-last';
const PARTS = 'bathyphon.copied-parts';

/** A clip or a treatment as it was when it was copied. */
export type Copied = {
  /** The reel it comes from, and that reel's rate. */
  reel: string;
  rate: number;
  /** The track it lay on. */
  track: string;
} & (
  | {
      kind: 'clip';
      part: Clip;
      /** The medium's name on the shelf, for a reel that does not have it yet. */
      path: string;
    }
  | { kind: 'treatment'; part: Treatment }
);

export const copiedLast = (): Kind | undefined => storedList<Kind>(LAST)[0];

export const noteCopied = (kind: Kind) => storeList(LAST, [kind]);

/** They outlive the window, so they can go into another reel. */
export const copiedParts = () => storedList<Copied>(PARTS);

export const keepParts = (parts: Copied[]) => storeList(PARTS, parts);
