import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Report, ToWorklet } from './messages';
import type { Want } from './plan';
import { Supply, type FromSupply } from './supply';

const RATE = 100;

let asked: { url: string; init: RequestInit }[];
let pages: FromSupply[];
let reports: Report[];
let supply: Supply;

/** The output's end, which hears what is said to it and tells where it is. */
class Output {
  heard: ToWorklet[] = [];
  private readonly port = {
    postMessage: (m: ToWorklet) => void this.heard.push(m),
    onmessage: undefined as ((e: { data: Report }) => void) | undefined,
  };

  constructor() {
    supply.receive({ type: 'output' }, this.port as unknown as MessagePort);
  }

  tell(position: number, jumps: number, more: Partial<Report> = {}) {
    const data: Report = {
      type: 'at', position, frame: 0, playing: true, starving: false, peaks: [0, 0], ended: false, jumps, ...more,
    }; // prettier-ignore
    this.port.onmessage?.({ data });
  }

  get kinds() {
    return this.heard.map((m) => m.type);
  }
}

const want = (position: number): Want => ({
  side: 'treated',
  position,
  playing: true,
  loop: undefined,
});
type Told = Parameters<Supply['receive']>[0];
const tell = (...messages: Told[]) => messages.forEach((m) => supply.receive(m));
const say = (...messages: ToWorklet[]) =>
  tell(...messages.map((message): Told => ({ type: 'say', message })));

/** To a place, as the player says it. */
function seek(to: number, count: number) {
  say({ type: 'jump', count }, { type: 'seek', to });
  tell({ type: 'look', want: want(to) });
}

/** Seconds that are being asked for. */
const seconds = () =>
  asked
    .filter(({ init }) => !init.signal?.aborted)
    .map(({ url }) => Number(/treated\/(\d+)/.exec(url)?.[1]));

beforeEach(() => {
  [asked, pages, reports] = [[], [], []];
  vi.stubGlobal('fetch', (url: string, init: RequestInit) => {
    asked.push({ url, init });
    return new Promise(() => undefined);
  });
  supply = new Supply(
    { reel: 'r', rate: RATE, token: 'ours' },
    (m) => pages.push(m),
    (r) => reports.push(r),
    () => undefined,
  );
  tell({ type: 'revision', revision: 1, length: 100 * RATE, drafted: [] });
});

describe('what is said', () => {
  it('waits for an output, and stays in order', () => {
    say({ type: 'length', samples: 900 }, { type: 'play', from: 3 });
    const output = new Output();
    say({ type: 'pause' });
    const kinds = output.kinds.filter((kind) => kind !== 'doubt' && kind !== 'hand');
    expect(kinds).toEqual(['length', 'play', 'pause']);
  });

  it('is said to another output when one is lost, which learns whose draft may be heard', () => {
    const first = new Output();
    say({ type: 'hand', serial: 7 });
    tell({ type: 'lost' });
    say({ type: 'side', side: 'other' });
    const second = new Output();
    expect(first.kinds.at(-1)).toBe('hand');
    expect(second.heard[0]).toEqual({ type: 'hand', serial: 7 });
    expect(second.kinds.at(-1)).toBe('side');
  });
});

describe('where it plays', () => {
  it('is what is asked for, without a word from the page', () => {
    const output = new Output();
    seek(0, 1);
    output.tell(50 * RATE, 1);
    expect(Math.min(...seconds())).toBe(50);
    expect(reports).toHaveLength(1);
  });

  it('is not where it was before a jump', () => {
    const output = new Output();
    seek(10 * RATE, 1);
    output.tell(10 * RATE, 1);
    seek(70 * RATE, 2);
    const before = asked.length;
    // It has not heard of the jump yet.
    output.tell(10 * RATE + 5, 1);
    expect(asked).toHaveLength(before);
    expect(Math.min(...seconds())).toBe(70);
    expect(reports).toHaveLength(1);
    output.tell(70 * RATE, 2);
    expect(reports).toHaveLength(2);
    expect(Math.min(...seconds())).toBe(70);
  });

  it('goes on after a pause from where it was', () => {
    const output = new Output();
    seek(10 * RATE, 1);
    output.tell(90 * RATE, 1, { playing: false });
    expect(Math.min(...seconds())).toBe(10);
  });
});

it('bears the token of our own page, the newest there is', () => {
  const tokens = () => asked.map(({ init }) => new Headers(init.headers).get('X-CSRFToken'));
  tell({ type: 'look', want: { ...want(0), side: 'other' } });
  expect(tokens()).toContain('ours');
  asked = [];
  tell({ type: 'token', token: 'newer' }, { type: 'against', state: { revision: 1 } });
  expect(tokens()).toContain('newer');
  expect(tokens()).not.toContain('ours');
});

it('says once what is wrong', async () => {
  vi.stubGlobal('fetch', () => Promise.reject(new TypeError('no')));
  tell({ type: 'look', want: want(0) });
  await vi.waitFor(() => expect(pages).toHaveLength(1));
  tell({ type: 'look', want: want(50 * RATE) });
  await new Promise((resolve) => setTimeout(resolve, 20));
  expect(pages).toEqual([
    { type: 'trouble', trouble: 'The server does not answer; trying again.' },
  ]);
});
