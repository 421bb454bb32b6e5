/** The document as it is shown, by the part of it that is wanted. */
import { NOTHING, type ReelDocument } from './document';
import { useSession } from './session';

/** A part of the document; who asks for it is drawn anew only when that part is another one. */
export function useReel<T>(select: (reel: ReelDocument) => T): T {
  return useSession((s) => select(s.document ?? NOTHING));
}

/**
 * A part without what is named of it.
 *
 * Who shows the rest selects it with `useShallow`, and is not drawn anew when only that changes.
 */
export function without<T extends object, K extends keyof T & string>(
  part: T,
  ...keys: K[]
): Omit<T, K> {
  const left = Object.entries(part).filter(([key]) => !(keys as string[]).includes(key));
  return Object.fromEntries(left) as Omit<T, K>;
}

/** The document at this moment, for what is done rather than drawn. */
export function reelNow(): ReelDocument {
  return useSession.getState().document ?? NOTHING;
}
