import { expect, test } from 'vitest';
import { makeClock } from '../../time/clock';
import { clipSpan, commandOf } from './clipDrag';
import { dragged } from '../axis/spanDrag';

const clock = makeClock('30000/1001', 48000);
const at = (frame: number) => clock.sampleOfFrame(frame);
const clip = { id: 'c', media: 'm', start: at(10), length: at(40) - at(10) };
const toFrame = (sample: number) => ({ sample: at(Math.round(sample / 1601.6)), to: '' });

test('a moved clip keeps its length and leads those that move with it', () => {
  const { shape } = dragged('move', clipSpan(clip), 5 * 1601.6, 1602, toFrame);
  expect(shape.end - shape.start).toBe(clip.length);
  expect(commandOf('move', clip, ['b', 'c'], shape)).toEqual({
    kind: 'move_clips',
    ids: ['c', 'b'],
    to: { sample: at(15) },
  });
});

test('an edge stops a frame before the other, a fade at the other fade', () => {
  expect(dragged('start', clipSpan(clip), 1e6, 1602, toFrame).shape.start).toBe(at(40) - 1602);
  const faded = { ...clip, fade_out: { length: 8000 } };
  const { shape } = dragged('head', clipSpan(faded), 1e6, 1602, toFrame);
  expect(shape.head).toBe(clip.length - 8000);
  expect(commandOf('head', faded, ['c'], shape)).toMatchObject({
    kind: 'set_fade',
    edge: 'in',
    fade: { length: clip.length - 8000 },
  });
});

test('a drag that comes back is no edit', () => {
  expect(commandOf('end', clip, ['c'], clipSpan(clip))).toBeUndefined();
});
