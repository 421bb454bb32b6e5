import { describe, expect, it } from 'vitest';
import type { ReelDocument } from '../../reel/document';
import { nextPart } from './walk';

const clip = (id: string, start: number) => ({ id, media: 'm', start, length: 10 });
const reel = {
  tracks: [
    {
      id: 'a',
      clips: [clip('c2', 50), clip('c1', 0)],
      treatments: [{ id: 'f1', start: 20, length: 5 }],
    },
    { id: 'b', clips: [clip('c3', 5)] },
  ],
} as unknown as ReelDocument;

describe('from part to part', () => {
  it('goes from the first to the last and back, over the ends of tracks', () => {
    const order = ['c1', 'f1', 'c2', 'c3'];
    let part = nextPart(reel, { kind: 'none' }, 0, 1);
    const seen = [part?.id];
    while (part) {
      part = nextPart(reel, part, 0, 1);
      if (part) seen.push(part.id);
    }
    expect(seen).toEqual(order);
    expect(nextPart(reel, { kind: 'clip', id: 'c3' }, 0, -1)?.id).toBe('c2');
    expect(nextPart(reel, { kind: 'clip', id: 'c1' }, 0, -1)).toBeUndefined();
  });

  it('begins on a track at what lies nearest to the playhead', () => {
    expect(nextPart(reel, { kind: 'track', id: 'a' }, 15, 1)?.id).toBe('f1');
    expect(nextPart(reel, { kind: 'track', id: 'a' }, 15, -1)?.id).toBe('c1');
    expect(nextPart(reel, { kind: 'track', id: 'b' }, 90, 1)?.id).toBe('c3');
  });

  it('has nothing to go to in an empty reel', () => {
    expect(nextPart({} as ReelDocument, { kind: 'none' }, 0, 1)).toBeUndefined();
  });
});
