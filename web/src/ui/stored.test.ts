import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { storedList, storeList } from './stored';

let kept: Map<string, string>;
let room: number;

beforeEach(() => {
  kept = new Map();
  room = 1000;
  vi.stubGlobal('localStorage', {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, text: string) => {
      if (text.length > room) throw new DOMException('full', 'QuotaExceededError');
      kept.set(key, text);
    },
    removeItem: (key: string) => kept.delete(key),
  });
});
afterEach(() => vi.unstubAllGlobals());

describe('remembered lists', () => {
  it('gives back what was stored, and nothing for what cannot be read', () => {
    storeList('a', [1, 2]);
    expect(storedList('a')).toEqual([1, 2]);
    kept.set('a', '{');
    expect(storedList('a')).toEqual([]);
    kept.set('a', '"text"');
    expect(storedList('a')).toEqual([]);
  });

  it('knows what is too large for the browser as long as the window is open', () => {
    storeList('b', [1]);
    const large = Array.from({ length: 1000 }, (_, i) => i);
    storeList('b', large);
    expect(storedList('b')).toBe(large);
    expect(kept.has('b')).toBe(false);
    storeList('b', [2]);
    expect(storedList('b')).toEqual([2]);
  });
});
