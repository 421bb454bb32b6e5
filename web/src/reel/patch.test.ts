import { describe, expect, it } from 'vitest';
import { applyPatch } from './patch';

describe('applyPatch', () => {
  const doc = { tracks: [{ id: 'a', clips: [1, 2, 3] }], name: 'x' };

  it('adds, replaces and removes without changing the old document', () => {
    const kept = structuredClone(doc);
    const next = applyPatch(doc, [
      { op: 'add', path: '/tracks/0/clips/1', value: 9 },
      { op: 'remove', path: '/tracks/0/clips/0' },
      { op: 'replace', path: '/name', value: 'y' },
      { op: 'add', path: '/mix', value: { gain_db: 0 } },
    ]);
    expect(next).toEqual({
      tracks: [{ id: 'a', clips: [9, 2, 3] }],
      name: 'y',
      mix: { gain_db: 0 },
    });
    expect(doc).toEqual(kept);
  });

  it('shares what it does not touch', () => {
    const next = applyPatch(doc, [{ op: 'replace', path: '/name', value: 'z' }]);
    expect(next.tracks).toBe(doc.tracks);
  });

  it('reads escaped names', () => {
    const next = applyPatch({ 'a/b': { '~': 1 } }, [{ op: 'replace', path: '/a~1b/~0', value: 2 }]);
    expect(next).toEqual({ 'a/b': { '~': 2 } });
  });
});
