/** Copied keyframes; they outlive the window, so they can go into another reel. */
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

export function keepKeys(keys: CopiedKey[]) {
  localStorage.setItem(KEY, JSON.stringify(keys));
}

export function copiedKeys(): CopiedKey[] {
  try {
    const found: unknown = JSON.parse(localStorage.getItem(KEY) ?? '[]');
    return Array.isArray(found) ? (found as CopiedKey[]) : [];
  } catch {
    return [];
  }
}
