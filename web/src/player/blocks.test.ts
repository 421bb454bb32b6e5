// @vitest-environment jsdom
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { Blocks } from './blocks';
import type { ToWorklet } from './messages';
import type { Want } from './plan';

const RATE = 100;

interface Asked {
  path: string;
  query: URLSearchParams;
  init: RequestInit;
  answer: (status: number, value?: number, etag?: string) => Promise<void>;
}

let asked: Asked[];
let told: ToWorklet[];
let troubles: string[];

/** A server that answers when it is told to. */
function serve(input: RequestInfo | URL, init: RequestInit = {}): Promise<Response> {
  const url = new URL(String(input), 'http://x');
  return new Promise((resolve, reject) => {
    init.signal?.addEventListener('abort', () => reject(new DOMException('', 'AbortError')));
    asked.push({
      path: url.pathname.split('/sound/')[1]!,
      query: url.searchParams,
      init,
      answer: async (status, value = 0, etag = 'k') => {
        const body = status === 200 ? new Float32Array(2 * RATE).fill(value).buffer : null;
        const headers = { ETag: `"${etag}"` };
        resolve(new Response(status === 304 ? null : (body ?? '{}'), { status, headers }));
        await settled();
      },
    });
  });
}

async function settled() {
  for (let i = 0; i < 20; i++) await Promise.resolve();
}

const want = (position: number, more: Partial<Want> = {}): Want => ({
  side: 'treated',
  position,
  playing: true,
  loop: undefined,
  ...more,
});

function blocks() {
  return new Blocks(
    { reel: 'r', rate: RATE, token: 'ours' },
    (message) => told.push(message),
    (trouble) => troubles.push(trouble),
  );
}

const open = () => asked.filter((a) => !a.init.signal?.aborted);
const nameOf = (a: Asked) => {
  const part = a.query.get('part');
  return part === null ? a.path : `${a.path}/${part}`;
};
const names = () => open().map(nameOf);

/** Answer whatever is asked, until nothing is. */
async function answerAll(value = 0, etag = (a: Asked) => a.path) {
  for (let turn = 0; turn < 40; turn++) {
    const next = asked.shift();
    if (!next) return;
    if (next.init.signal?.aborted) continue;
    const held = new Headers(next.init.headers).get('If-None-Match');
    const tag = etag(next);
    await next.answer(held === `"${tag}"` ? 304 : 200, value, tag);
  }
}

/** Blocks that play near the beginning, all of what is wanted there being held. */
async function playing() {
  const b = blocks();
  b.setRevision(1, 20 * RATE);
  b.look(want(200));
  await answerAll(1);
  return b;
}

beforeEach(() => {
  [asked, told, troubles] = [[], [], []];
  vi.stubGlobal('fetch', serve);
});
afterEach(() => {
  vi.unstubAllGlobals();
  vi.useRealTimers();
});

describe('blocks', () => {
  it('asks for a part at the playhead first, two at a time', () => {
    const b = blocks();
    b.setRevision(1, 20 * RATE);
    b.look(want(220));
    expect(names()).toEqual(['treated/2/1', 'treated/2']);
  });

  it('has the next second begin where one has gone shortly before the end of one', async () => {
    const b = blocks();
    b.setRevision(1, 20 * RATE);
    b.look(want(264));
    expect(names()).toEqual(['treated/2/3', 'treated/3/0']);
    await asked[0]!.answer(200);
    await asked[1]!.answer(200);
    expect(names().slice(2)).toEqual(['treated/3']);
    await asked[2]!.answer(200);
    // Whoever is there already has the next second come whole, and exact, after an edit as well.
    b.setRevision(2, 20 * RATE);
    expect(names().slice(-2)).toEqual(['treated/2/3', 'treated/2']);
  });

  it('goes on in the order of playing, and holds the other side ready', async () => {
    const b = blocks();
    b.setRevision(1, 20 * RATE);
    b.look(want(200));
    const seen: string[] = [];
    for (let next = asked.shift(); next; next = asked.shift()) {
      seen.push(nameOf(next));
      await next.answer(200);
    }
    // Beside the whole second what is played of it within half a second is asked for.
    expect(seen.slice(0, 6)).toEqual([
      'treated/2/0',
      'treated/2',
      'treated/3',
      'treated/4',
      'treated/5',
      'treated/6',
    ]);
    expect(seen.slice(6)).toEqual(['other/2', 'other/3']);
  });

  it('after an edit asks again, in a loop for its beginning as well, and sends what it holds', async () => {
    const b = blocks();
    const loop = { start: 10 * RATE, end: 14 * RATE };
    b.setRevision(1, 20 * RATE);
    b.look(want(10 * RATE, { loop }));
    await answerAll();
    b.look(want(13 * RATE + 50, { loop }));
    await answerAll();
    expect(names()).toEqual([]);
    told = [];
    b.setRevision(2, 20 * RATE);
    expect(told[0]).toEqual({ type: 'doubt', side: 'treated' });
    const seen: string[] = [];
    for (let next = asked.shift(); next; next = asked.shift()) {
      if (next.init.signal?.aborted) continue;
      seen.push(nameOf(next));
      const held = new Headers(next.init.headers).get('If-None-Match');
      await next.answer(held ? 304 : 200, 0, next.path);
    }
    const order = seen.filter((n) => /^treated\/\d+$/.test(n));
    // The block that a part has been laid over may be asked for twice.
    expect([...new Set(order)]).toEqual([13, 10, 11, 12].map((i) => `treated/${i}`));
    // What has not changed does not travel, and is known to be right.
    expect(told).toContainEqual({
      type: 'right',
      side: 'treated',
      index: 10,
      exact: true,
    });
    expect(b.ready('treated', 10)).toBe(true);
  });

  it('asks for more parts together once one has come quickly, and for none of them twice', async () => {
    const b = blocks();
    b.setRevision(1, 20 * RATE);
    b.look(want(200));
    const [first, whole] = open();
    await first!.answer(200, 5);
    expect(first!.query.get('parts')).toBe('3');
    // The playhead goes on meanwhile.
    b.look(want(220));
    const more = open().find((a) => nameOf(a) === 'treated/2/3')!;
    expect(more.query.get('parts')).toBe('2');
    // It goes on, and into what is under way.
    b.look(want(250));
    expect(names().filter((name) => name !== 'treated/2/0')).toEqual(['treated/2', 'treated/2/3']);
    await more.answer(200, 6);
    b.look(want(290));
    const ahead = open().at(-1)!;
    expect([nameOf(ahead), ahead.query.get('parts')]).toEqual(['treated/3/0', '5']);
    await whole!.answer(200, 1);
  });

  it('asks from further ahead while whole seconds take long, and no longer than that', async () => {
    vi.useFakeTimers({ toFake: ['performance', 'setTimeout', 'clearTimeout'] });
    const b = blocks();
    b.setRevision(1, 200 * RATE);
    const farthest = async (position: number, takes: number) => {
      b.look(want(position));
      let last = 0;
      for (let next = asked.shift(); next; next = asked.shift()) {
        if (next.init.signal?.aborted) continue;
        const [side, index, part] = nameOf(next).split('/');
        if (side === 'treated' && !part) last = Math.max(last, Number(index) - position / RATE);
        vi.advanceTimersByTime(takes);
        await next.answer(200, 1, next.path);
      }
      return last;
    };
    expect(await farthest(0, 20)).toBe(4);
    expect(await farthest(30 * RATE, 1500)).toBe(12);
    expect(await farthest(60 * RATE, 20)).toBeGreaterThanOrEqual(4);
    expect(await farthest(90 * RATE, 20)).toBe(4);
  });

  it('does not take a block for right that a part has been laid over', async () => {
    const b = blocks();
    b.setRevision(1, 20 * RATE);
    b.look(want(200));
    await answerAll(1);
    b.setRevision(2, 20 * RATE);
    const [part, whole] = open();
    expect([nameOf(part!), nameOf(whole!)]).toEqual(['treated/2/0', 'treated/2']);
    told = [];
    await part!.answer(200, 5);
    await whole!.answer(304);
    expect(told.some((m) => m.type === 'right' && m.index === 2)).toBe(false);
    const again = open().find((a) => nameOf(a) === 'treated/2' && a !== whole)!;
    expect(new Headers(again.init.headers).get('If-None-Match')).toBeNull();
  });

  it('does not lay a part over a block that is right', async () => {
    const b = blocks();
    b.setRevision(1, 20 * RATE);
    b.look(want(200));
    const [part, whole] = open();
    await whole!.answer(200, 1);
    await part!.answer(200, 5);
    expect(told.filter((m) => m.type === 'slice')).toEqual([]);
    expect(b.ready('treated', 2)).toBe(true);
  });

  it('gives up what it has asked for when the playhead jumps', async () => {
    const b = blocks();
    b.setRevision(1, 20 * RATE);
    b.look(want(200));
    const before = [...asked];
    b.look(want(1500));
    expect(before.every((a) => a.init.signal?.aborted)).toBe(true);
    expect(names()).toEqual(['treated/15/0', 'treated/15']);
    expect(Number(open()[0]!.query.get('generation'))).toBeGreaterThan(
      Number(before[0]!.query.get('generation')),
    );
    // What comes late of the old place changes nothing.
    told = [];
    await before[0]!.answer(200);
    expect(told).toEqual([]);
  });

  it('a wrap to the beginning of a loop is no jump', () => {
    const b = blocks();
    const loop = { start: 3 * RATE, end: 6 * RATE };
    b.setRevision(1, 20 * RATE);
    b.look(want(5 * RATE, { loop }));
    const before = [...asked];
    b.look(want(3 * RATE, { loop }));
    expect(before.some((a) => a.init.signal?.aborted)).toBe(false);
  });

  it('lets a draft be heard, and not when it has been given up', async () => {
    vi.useFakeTimers();
    const b = await playing();
    const draft = [{ kind: 'x' }];
    told = [];
    b.makeWay();
    b.noteDraft({ commands: draft }, true, [[200, 210]]);
    // The player has been told beside the page, and while the hand moves nothing else is asked for.
    expect(told).toEqual([]);
    expect(open()).toEqual([]);
    b.makeWay();
    b.noteDraft({ commands: draft }, false, [[210, 220]]);
    await vi.advanceTimersByTimeAsync(500);
    expect(open()[0]!.init.method).toBe('POST');
    expect(nameOf(open()[0]!)).toBe('treated/2');
    // The untreated sound does not change thereby.
    expect(b.ready('other', 2)).toBe(true);
    await answerAll(2, () => 'other');
    expect(b.ready('treated', 2)).toBe(true);
    b.dropDraft();
    expect(b.ready('treated', 2)).toBe(false);
    expect(open()[0]!.init.method).toBe('GET');
  });

  it('asks for whole seconds upon what is still on its way, too', async () => {
    vi.useFakeTimers();
    const b = await playing();
    const commands = [{ kind: 'x' }];
    const upon = [{ edit_id: 'e', commands: [{ kind: 'y' }] }];
    const asked = () => JSON.parse(open()[0]!.init.body as string) as unknown;
    b.makeWay();
    b.noteDraft({ commands, upon }, true, [[200, 210]]);
    await vi.advanceTimersByTimeAsync(500);
    expect(asked()).toEqual({ commands, upon });
    await answerAll(2);
    b.makeWay();
    b.noteDraft({ commands: [{ kind: 'z' }] }, true, [[210, 220]]);
    await vi.advanceTimersByTimeAsync(500);
    expect(asked()).toEqual({ commands: [{ kind: 'z' }] });
  });

  it('goes on with what a hand does when another edit comes in meanwhile', async () => {
    vi.useFakeTimers();
    const b = await playing();
    const draft = [{ kind: 'x', value: 1 }];
    b.makeWay();
    b.noteDraft({ commands: draft }, true, [[200, 210]]);
    told = [];
    b.setRevision(2, 20 * RATE, [{ kind: 'x', value: 1 }]);
    // What is held is of the revision before, and nothing is asked for without the draft.
    expect(told).toContainEqual({ type: 'doubt', side: 'treated' });
    expect(open().filter((a) => a.path.startsWith('treated'))).toEqual([]);
    await vi.advanceTimersByTimeAsync(500);
    expect(nameOf(open()[0]!)).toBe('treated/2');
    expect(open()[0]!.init.method).toBe('POST');
    expect(JSON.parse(String(open()[0]!.init.body))).toEqual({ commands: draft });
  });

  it('is heard as it is recorded when what a hand does now has not been heard yet', async () => {
    const b = await playing();
    b.noteDraft({ commands: [{ kind: 'x', value: 1 }] }, true, [[200, 210]]);
    b.setRevision(2, 20 * RATE, [{ kind: 'y' }]);
    expect(open()[0]!.init.method).toBe('GET');
  });

  it('goes on asking while little is there and the hand has not been heard', async () => {
    vi.useFakeTimers();
    const b = blocks();
    b.setRevision(1, 20 * RATE);
    // Right after a jump: the first pieces have come, and they do not last long.
    b.look(want(1000));
    b.look(want(10.3 * RATE));
    await open()[0]!.answer(200);
    const under = open();
    expect(under.length).toBeGreaterThan(0);
    b.makeWay();
    expect(under.some((a) => a.init.signal?.aborted)).toBe(false);
    await answerAll();
    expect(b.ready('treated', 10)).toBe(true);
    // Now there is enough: nothing else is asked for beside a hand that moves.
    b.makeWay();
    b.look(want(10.35 * RATE));
    expect(open()).toEqual([]);
    // It becomes short again, and still nothing has been heard of the hand.
    b.look(want(10.9 * RATE));
    expect(names()).toContain('treated/11');
    await answerAll();
    // Once it is heard, its own questions bring what comes next.
    b.noteDraft({ commands: [{ kind: 'x' }] }, true, [[11 * RATE - 10, 11 * RATE + 20]]);
    b.makeWay();
    b.look(want(11 * RATE));
    expect(open()).toEqual([]);
  });

  it.each(['other', 'difference'] as const)(
    'goes on with the %s while a hand moves',
    async (side) => {
      vi.useFakeTimers();
      const b = blocks();
      b.setRevision(1, 40 * RATE);
      const at = (seconds: number) => want(seconds * RATE, { side });
      b.look(at(2));
      await answerAll();
      b.makeWay();
      for (let tenths = 20; tenths < 200; tenths++) {
        // It does not wait for what there is to hear; answers take longer than a step of the hand.
        const under = [...open()];
        b.noteDraft({ commands: [{ kind: String(tenths) }] }, true, []);
        b.makeWay();
        b.look(at(tenths / 10));
        for (const a of under) if (!a.init.signal?.aborted) await a.answer(200, 1, a.path);
        await vi.advanceTimersByTimeAsync(100);
        const second = Math.floor(tenths / 10);
        const came = told.filter((m) => m.type === 'block' && m.index === second).map((m) => m);
        const sides = new Set(came.map((m) => m.type === 'block' && m.side));
        expect(sides.has('other')).toBe(true);
        if (side === 'difference') expect(sides.has('treated')).toBe(true);
      }
    },
  );

  it.each([429, 409])('tries again soon when the server answers %i', async (status) => {
    vi.useFakeTimers();
    const b = blocks();
    b.setRevision(1, 20 * RATE);
    b.look(want(200));
    const first = [...asked];
    asked = [];
    for (const a of first) await a.answer(status);
    expect(asked).toEqual([]);
    await vi.advanceTimersByTimeAsync(100);
    expect(names().length).toBeGreaterThan(0);
    expect(troubles.filter(Boolean)).toEqual([]);
  });

  it('says when the server does not answer, and goes on trying', async () => {
    vi.useFakeTimers();
    const b = blocks();
    b.setRevision(1, 20 * RATE);
    vi.stubGlobal('fetch', () => Promise.reject(new TypeError('down')));
    b.look(want(200));
    await settled();
    expect(troubles.at(-1)).toMatch(/does not answer/);
    vi.stubGlobal('fetch', serve);
    await vi.advanceTimersByTimeAsync(1100);
    await answerAll();
    expect(troubles.at(-1)).toBe('');
    expect(b.ready('treated', 2)).toBe(true);
  });

  it('lets go of what was used longest ago', async () => {
    const b = blocks();
    b.setRevision(1, 400 * RATE);
    for (let second = 0; second < 200; second++) {
      b.look(want(second * RATE));
      await answerAll();
    }
    const dropped = told.filter((m) => m.type === 'drop').length;
    const given = told.filter((m) => m.type === 'block').length;
    expect(given - dropped).toBeLessThanOrEqual(91);
  });

  it('asks for nothing more when it is closed', async () => {
    const b = blocks();
    b.setRevision(1, 20 * RATE);
    b.look(want(200));
    b.close();
    expect(open()).toEqual([]);
    b.setRevision(2, 20 * RATE);
    expect(open()).toEqual([]);
  });
});
