import { describe, expect, it } from 'vitest';
import { COLUMNS, samplesOf, STEPS, stepFor } from './steps';
import { columnAt, MISSING, Tiles, valueOf, type Wanted } from './tiles';

const WANTED: Wanted = {
  reel: 'r',
  of: 'mix',
  side: 'after',
  kind: 'wave',
  axis: 'log',
  sharp: 'both',
  step: 2,
};
const ROWS = 3;

function filled(value: number, known = COLUMNS): Int16Array {
  return new Int16Array(COLUMNS * ROWS).fill(MISSING).fill(value, 0, known * ROWS);
}

/** A server that answers when it is told to. */
function served() {
  let now = 0;
  const open: { url: string; etag: string; answer: (r: Response) => void }[] = [];
  const ask = ((url: string, { headers }: { headers: Record<string, string> }) =>
    new Promise<Response>((answer) =>
      open.push({ url, etag: headers['If-None-Match'] ?? '', answer }),
    )) as unknown as typeof fetch;
  const tiles = new Tiles(ask, () => now);
  const settle = () => new Promise((done) => setTimeout(done));
  return {
    tiles,
    open,
    pass: (ms: number) => (now += ms),
    async answer(value: Int16Array | number, share = 1, etag = '"a"') {
      const next = open.shift()!;
      const headers = { 'X-Share': String(share), ...(share === 1 && { ETag: etag }) };
      next.answer(
        typeof value === 'number'
          ? new Response(null, { status: value })
          : new Response(value.slice().buffer, { status: 200, headers }),
      );
      await settle();
      return next;
    },
  };
}

describe('tiles', () => {
  it('come once, and are kept', async () => {
    const { tiles, open, answer } = served();
    expect(tiles.get(WANTED, 0, 1)).toBeUndefined();
    expect(tiles.ready(WANTED, 0, 1)).toBe(false);
    const { url } = await answer(filled(7));
    expect(url).toContain('/api/reels/r/analysis/tile?of=mix');
    expect(tiles.get(WANTED, 0, 1)?.values[0]).toBe(7);
    expect(open).toHaveLength(0);
    expect(tiles.ready(WANTED, 0, 1)).toBe(true);
  });

  it('stay as they were until an edit is answered for', async () => {
    const { tiles, answer } = served();
    tiles.get(WANTED, 0, 1);
    await answer(filled(7));
    expect(tiles.get(WANTED, 0, 2)?.values[0]).toBe(7);
    // Nothing has changed there.
    expect((await answer(304)).etag).toBe('"a"');
    expect(tiles.ready(WANTED, 0, 2)).toBe(true);
    tiles.get(WANTED, 0, 3);
    await answer(filled(9), 1, '"b"');
    expect(tiles.get(WANTED, 0, 3)?.values[0]).toBe(9);
  });

  it('are asked for again until they are whole, beside what was known', async () => {
    const { tiles, open, answer } = served();
    tiles.get(WANTED, 0, 1);
    await answer(filled(7));
    tiles.get(WANTED, 0, 2);
    await answer(filled(9, 40), 0.2);
    const half = tiles.get(WANTED, 0, 2)!;
    expect([half.values[0], half.values[41 * ROWS]]).toEqual([9, 7]);
    expect(tiles.share(WANTED, 0, 2)).toBe(0.2);
    expect(open).toHaveLength(1);
    await answer(filled(9));
    expect(tiles.get(WANTED, 0, 2)?.values[41 * ROWS]).toBe(9);
    expect([2, 3].map((revision) => tiles.share(WANTED, 0, revision))).toEqual([1, 0]);
  });

  it('that are not looked at any more are not asked for', async () => {
    const { tiles, open, answer, pass } = served();
    for (let index = 0; index < 9; index++) tiles.get(WANTED, index, 1);
    expect(open).toHaveLength(4);
    pass(1000);
    tiles.get(WANTED, 8, 1);
    await answer(filled(1));
    expect(open.map(({ url }) => /index=(\d)/.exec(url)![1])).toContain('8');
    for (let n = open.length; n > 0; n--) await answer(filled(1));
    expect(open).toHaveLength(0);
  });

  it('that cannot be had say why, and are asked for later', async () => {
    const { tiles, open, answer, pass } = served();
    let told = 0;
    tiles.subscribe(() => told++);
    tiles.get(WANTED, 0, 1);
    await answer(422);
    expect(told).toBe(1);
    expect(tiles.why(WANTED)).toContain('422');
    // Whoever draws is told once more, when it may be asked for again.
    await new Promise((done) => setTimeout(done, 1700));
    expect(told).toBe(2);
    expect(tiles.why({ ...WANTED, of: 'track:t1' })).toBe('');
    tiles.get(WANTED, 0, 1);
    expect(open).toHaveLength(0);
    pass(2000);
    tiles.get(WANTED, 0, 1);
    await answer(filled(3));
    expect(tiles.why(WANTED)).toBe('');
  });
});

describe('columns', () => {
  it.each([
    [0.05, 0],
    [240, 0],
    [1000, 1],
    [60_000, 3],
    [5e5, 5],
    [1e9, 5],
  ])('are as fine as %f samples a pixel ask for', (scale, step) => {
    const finest = 200;
    const found = stepFor(scale, 48_000, finest);
    expect(found).toBe(step);
    expect(stepFor(scale, 48_000, 10)).toBe(Math.max(step, 2));
  });

  it('are found by their sample', () => {
    const each = samplesOf(2, 48_000);
    expect(each).toBe(48_000 / STEPS[2]);
    const values = filled(MISSING);
    values.set([1, 2, 3], 5 * ROWS);
    const strip = {
      each,
      rows: ROWS,
      fraction: 10,
      tile: () => ({ values, share: 1 }),
      share: () => 1,
    };
    const column = columnAt(strip, each * (COLUMNS * 4 + 5.5));
    expect([...column!]).toEqual([1, 2, 3]);
    expect(valueOf(strip, column, 1)).toBe(0.2);
    expect(valueOf(strip, columnAt(strip, 0), 0)).toBeUndefined();
    expect(columnAt(strip, -1)).toBeUndefined();
  });
});
