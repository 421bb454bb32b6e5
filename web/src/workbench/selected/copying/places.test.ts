import { expect, test } from 'vitest';
import type { ReelDocument } from '../../../reel/document';
import { copyPlaces } from './places';

const clip = (id: string) => ({ id, media: 'm', start: 0, length: 10, source_start: 0 });
const document = {
  picture: { clips: [], cuts: [10], shots: [{ frame: 10, name: 'Under' }, { frame: 0 }] },
  markers: [
    { id: 'a', at: 1, label: 'drop', kind: 'sound' },
    { id: 'b', at: 2, label: 'drop' },
  ],
  tracks: [
    { id: 't1', name: 'Voice', clips: [clip('c1'), clip('c2')], treatments: [] },
    { id: 't2', name: 'Alone', clips: [], treatments: [] },
  ],
} as unknown as ReelDocument;

const labels = (kind: 'clip' | 'treatment', others: string[] = []) =>
  copyPlaces(
    document,
    { kind, id: 'c1' },
    others.map((id) => ({ kind: 'clip', id })),
  ).map((place) => place.label);

test('a clip goes to clips: those selected, of tracks, under shots, at markers', () => {
  expect(labels('clip', ['c2'])).toEqual([
    'The clip selected with it',
    'All clips of Voice',
    'Clips under each shot “Under”',
    'Clips under each shot with a marker “drop”',
    'Clips under each shot with a marker of the kind sound',
    'Clips under each shot with a marker of the kind note',
    'Clips at each marker “drop”',
    'Clips at each marker of the kind sound',
    'Clips at each marker of the kind note',
  ]);
});

test('the treatment of a stretch goes over shots and begins at markers', () => {
  const said = labels('treatment');
  expect(said).toContain('Over each shot “Under”');
  expect(said).toContain('From each marker “drop”');
});

test('where there is nothing else there is nothing to choose', () => {
  const alone = { tracks: [{ ...document.tracks![0]!, clips: [clip('c1')] }] };
  expect(copyPlaces(alone as ReelDocument, { kind: 'clip', id: 'c1' }, [])).toEqual([]);
});
