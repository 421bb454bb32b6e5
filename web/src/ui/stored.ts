/** Lists that this browser remembers. What cannot be read is forgotten. */
export function storedList<T>(key: string): T[] {
  try {
    const found: unknown = JSON.parse(localStorage.getItem(key) ?? '[]');
    return Array.isArray(found) ? (found as T[]) : [];
  } catch {
    return [];
  }
}

export function storeList<T>(key: string, list: T[]) {
  localStorage.setItem(key, JSON.stringify(list));
}
