import { expect, test } from 'vitest';
import type { ReelDocument } from '../../reel/document';
import { STEPS, type Seen } from './steps';

const clip = { id: 'c', media: 'm', start: 0, length: 9 };
const muffle = (hz: number) => ({ id: 'e', kind: 'muffle', params: { high_cut_hz: hz } });
const span = (...effects: unknown[]) => ({ id: 'f', start: 0, length: 9, effects });
const reel = (track: object, more: object = {}) =>
  ({
    tracks: [{ id: 't', clips: [clip], treatments: [], ...track }],
    ...more,
  }) as unknown as ReelDocument;
const seen = (document: ReelDocument, more: Partial<Seen> = {}): Seen => ({
  document,
  heard: 0,
  atCut: false,
  position: 0,
  untreated: false,
  ...more,
});
const step = (id: string) => STEPS.find((s) => s.id === id)!;
const plain = reel({});

test.each([
  ['listen', seen(plain, { heard: 3.1 }), seen(plain)],
  ['cut', seen(plain, { atCut: true, position: 50 }), seen(plain)],
  ['treat', seen(reel({ treatments: [span(muffle(500))] })), seen(plain)],
  [
    'turn',
    seen(reel({ treatments: [span(muffle(900))] })),
    seen(reel({ treatments: [span(muffle(500))] })),
  ],
  ['compare', seen(plain, { untreated: true }), seen(plain)],
  [
    'ring',
    seen(reel({ clips: [{ ...clip, treatment: { effects: [{ id: 'r', kind: 'echo' }] } }] })),
    seen(plain),
  ],
  ['bed', seen(reel({ clips: [clip, { ...clip, id: 'b', bed: true }] })), seen(plain)],
  ['recipe', seen(reel({}, { made: [{ id: 'r' }] })), seen(plain)],
])('%s is noticed when it is done, and not before', (id, now, then) => {
  expect(step(id).done(now, then)).toBe(true);
  expect(step(id).done(then, then)).toBe(false);
  // What was there already is nothing that was done.
  if (id !== 'listen' && id !== 'compare' && id !== 'cut')
    expect(step(id).done(now, now)).toBe(false);
});

test('there are no more than eight, each with its own id', () => {
  expect(STEPS.length).toBeLessThanOrEqual(8);
  expect(new Set(STEPS.map((s) => s.id)).size).toBe(STEPS.length);
});
