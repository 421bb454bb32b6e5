import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { Parts, RETRY_MS } from './parts';

let asked: string[];
let status: number;

beforeEach(() => {
  vi.useFakeTimers();
  asked = [];
  status = 200;
  vi.stubGlobal('fetch', (path: string) => {
    asked.push(path);
    return Promise.resolve(new Response(new Uint8Array([1, 2]), { status }));
  });
});
afterEach(() => {
  vi.unstubAllGlobals();
  vi.useRealTimers();
});

const parts = (most?: number) => new Parts((data) => new Uint8Array(data), most);

it('fetches a part once and tells everyone who waits', async () => {
  const held = parts();
  const told = [0, 0];
  for (let i = 0; i < 50; i++) {
    expect(held.get('m/x', () => told[0]!++)).toBeUndefined();
    held.get('m/x', () => told[1]!++);
  }
  await vi.advanceTimersByTimeAsync(1);
  expect(asked).toEqual(['/api/media/m/x']);
  expect(told[0]).toBeGreaterThan(0);
  expect(told[1]).toBeGreaterThan(0);
  expect(held.get('m/x', () => undefined)).toEqual(new Uint8Array([1, 2]));
});

it('asks again for what could not be had, but not often, and never gives up', async () => {
  const held = parts();
  status = 404;
  // A view that draws again whenever it is told to, and often besides.
  const draw = () => held.get('m/x', draw);
  for (let ms = 0; ms < 300; ms += 6) {
    draw();
    await vi.advanceTimersByTimeAsync(6);
  }
  expect(asked.length).toBe(1);
  await vi.advanceTimersByTimeAsync(10 * RETRY_MS);
  expect(asked.length).toBeGreaterThan(2);
  expect(asked.length).toBeLessThan(6);
  status = 200;
  await vi.advanceTimersByTimeAsync(40 * RETRY_MS);
  expect(held.get('m/x', draw)).toBeDefined();
});

it('keeps no more than it may', async () => {
  const held = parts(3);
  for (let i = 0; i < 6; i++) {
    held.get(`m/${i}`, () => undefined);
    await vi.advanceTimersByTimeAsync(1);
  }
  expect(held.get('m/5', () => undefined)).toBeDefined();
  expect(held.get('m/0', () => undefined)).toBeUndefined();
  expect(asked.length).toBe(7);
});
