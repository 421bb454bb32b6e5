/** Lists that this browser remembers, or this window for its session. What cannot be read is forgotten. */

/** What the browser had no room for: known as long as this window is open. */
const tooLarge = new Map<string, unknown[]>();

export function storedList<T>(key: string, storage: Storage = localStorage): T[] {
  const kept = tooLarge.get(key);
  if (kept) return kept as T[];
  try {
    const found: unknown = JSON.parse(storage.getItem(key) ?? '[]');
    return Array.isArray(found) ? (found as T[]) : [];
  } catch {
    return [];
  }
}

export function storeList<T>(key: string, list: T[], storage: Storage = localStorage) {
  tooLarge.delete(key);
  try {
    storage.setItem(key, JSON.stringify(list));
  } catch {
    storage.removeItem(key);
    tooLarge.set(key, list);
  }
}
