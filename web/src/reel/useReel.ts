/** The document as it is shown, by the part of it that is wanted. */
import { NOTHING, type ReelDocument } from './document';
import { useSession } from './session';

/** A part of the document; who asks for it is drawn anew only when that part is another one. */
export function useReel<T>(select: (reel: ReelDocument) => T): T {
  return useSession((s) => select(s.document ?? NOTHING));
}

/** The document at this moment, for what is done rather than drawn. */
export function reelNow(): ReelDocument {
  return useSession.getState().document ?? NOTHING;
}
