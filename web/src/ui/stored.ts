/** Lists that this browser remembers. What cannot be read is forgotten. */

/** What the browser had no room for: known as long as this window is open. */
const tooLarge = new Map<string, unknown[]>();

export function storedList<T>(key: string): T[] {
  const kept = tooLarge.get(key);
  if (kept) return kept as T[];
  try {
    const found: unknown = JSON.parse(localStorage.getItem(key) ?? '[]');
    return Array.isArray(found) ? (found as T[]) : [];
  } catch {
    return [];
  }
}

export function storeList<T>(key: string, list: T[]) {
  tooLarge.delete(key);
  try {
    localStorage.setItem(key, JSON.stringify(list));
  } catch {
    localStorage.removeItem(key);
    tooLarge.set(key, list);
  }
}
