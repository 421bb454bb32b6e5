import { describe, expect, it } from 'vitest';
import type { ReelDocument } from '../../reel/document';
import type { Copied } from './copied';
import { copiesAt } from './copies';

const clip = (id: string, start: number) => ({ id, media: 'm', start, length: 10 });
const span = (id: string, start: number) => ({ id, start, length: 10 });
const document = {
  media: [{ id: 'm', path: 'm.wav' }],
  tracks: [
    { id: 'a', clips: [clip('c1', 100)], treatments: [span('f1', 40)] },
    { id: 'b', clips: [clip('c2', 130)] },
  ],
} as unknown as ReelDocument;

const from = { reel: 'r', rate: 48000 };
const c1: Copied = { ...from, track: 'a', kind: 'clip', part: clip('c1', 100), path: 'm.wav' };
const c2: Copied = { ...from, track: 'b', kind: 'clip', part: clip('c2', 130), path: 'm.wav' };
const f1: Copied = { ...from, track: 'a', kind: 'treatment', part: span('f1', 40) };

const kinds = (parts: Copied[], reel = 'r') =>
  copiesAt(parts, 1000, document, reel).commands.map((c) => c.kind);

describe('copies', () => {
  it('lays the earliest at the moment and keeps the distances of the others', () => {
    const { commands, made } = copiesAt([c2, c1, f1], 1000, document, 'r');
    expect(commands).toMatchObject([
      { kind: 'copy_clips', ids: ['c2', 'c1'], at: { sample: 1060 } },
      { kind: 'paste_treatments', at: { sample: 1000 }, parts: [{ track: 'a' }] },
    ]);
    expect(made.map((p) => p.kind)).toEqual(['clip', 'clip', 'treatment']);
    expect(new Set(made.map((p) => p.id)).size).toBe(3);
    const later = copiesAt([c1, { ...f1, part: span('f1', 500) }], 0, document, 'r');
    expect(later.commands[1]).toMatchObject({ at: { sample: 400 } });
  });

  it('brings back what has been taken away, to its own track', () => {
    const gone: Copied = { ...c1, part: clip('gone', 100) };
    const { commands } = copiesAt([gone, c2], 1000, document, 'r');
    expect(commands).toMatchObject([
      { kind: 'add_clip', track: 'a', clip: { start: 1000 } },
      { kind: 'add_clip', track: 'b', clip: { start: 1030 } },
    ]);
  });

  it('gives a new track to what comes from another reel, and its medium if it is not there', () => {
    const other: Copied = { ...c1, part: { ...clip('c1', 100), media: 'n' }, path: 'n.wav' };
    const { commands } = copiesAt([other, f1], 1000, document, 'another');
    expect(commands.map((c) => c.kind)).toEqual([
      'add_track',
      'add_medium',
      'add_clip',
      'paste_treatments',
    ]);
    const track = (commands[0] as unknown as { track: { id: string } }).track.id;
    expect(commands[2]).toMatchObject({ track });
    expect(commands[3]).toMatchObject({ parts: [{ track }] });
    expect(kinds([{ ...c1, track: 'gone' }])).toEqual(['copy_clips']);
  });
});
