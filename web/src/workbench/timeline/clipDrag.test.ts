import { expect, test } from 'vitest';
import { makeClock } from '../../time/clock';
import { clipShape, commandOf, dragged } from './clipDrag';

const clock = makeClock('30000/1001', 48000);
const at = (frame: number) => clock.sampleOfFrame(frame);
const clip = { id: 'c', media: 'm', start: at(10), length: at(40) - at(10) };
const toFrame = (sample: number) => ({ sample: at(Math.round(sample / 1601.6)), to: '' });

test('a moved clip keeps its length and says so in frames', () => {
  const { shape } = dragged('move', clipShape(clip), 5 * 1601.6, 1602, toFrame);
  expect(shape.end - shape.start).toBe(clip.length);
  expect(commandOf('move', clip, ['c'], shape, clock)).toEqual({
    kind: 'move_clips',
    ids: ['c'],
    frames: 5,
  });
});

test('an edge stops a frame before the other, a fade at the other fade', () => {
  expect(dragged('start', clipShape(clip), 1e6, 1602, toFrame).shape.start).toBe(at(40) - 1602);
  const faded = { ...clip, fade_out: { length: 8000 } };
  const { shape } = dragged('fade-in', clipShape(faded), 1e6, 1602, toFrame);
  expect(shape.head).toBe(clip.length - 8000);
  expect(commandOf('fade-in', faded, ['c'], shape, clock)).toMatchObject({
    fade_in: { length: clip.length - 8000 },
  });
});

test('a drag that comes back is no edit', () => {
  expect(commandOf('end', clip, ['c'], clipShape(clip), clock)).toBeUndefined();
});
