// @vitest-environment jsdom
import { expect, it } from 'vitest';
import type { ReelDocument } from '../../reel/document';
import { mediaInSight } from './onScreen';

const clip = (id: string, media: string, start: number, length: number) => ({
  id,
  media,
  start,
  length,
});

it('names each medium in sight once, and none that only touches its edge', () => {
  const document = {
    picture: { clips: [{ media: 'film', start: 0, length: 1000 }] },
    tracks: [
      { id: 't', clips: [clip('a', 'song', 100, 100), clip('b', 'song', 400, 100)] },
      { id: 'u', clips: [clip('c', 'late', 500, 100), clip('d', 'early', 0, 100)] },
    ],
  } as unknown as ReelDocument;
  expect(mediaInSight(document, 100, 500)).toEqual(['film', 'song']);
  expect(mediaInSight(document, 2000, 3000)).toEqual([]);
});
