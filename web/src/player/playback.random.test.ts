/** Whatever comes in whatever order: nothing clicks, and what is said to be exact is. */
import { expect, it } from 'vitest';
import { FADE_SECONDS, Playback } from './playback';
import type { Heard } from './messages';
import { PARTS, type Sound } from './shelf';

const RATE = 8000;
const GRID = RATE;
const SECONDS = 6;
const SHORTEST = 3;
const HAND = 3;
const QUANTUM = 128;
const FADE = Math.round(FADE_SECONDS * RATE);
/** Several fades may run at once; what is heard lies between 0.3 and 0.7. */
const SOFT = (2.5 * 0.75 * 1.6) / FADE;

/** A generator of numbers from 0 to 1 (mulberry32, public domain). */
function numbers(seed: number) {
  return () => {
    seed = (seed + 0x6d2b79f5) | 0;
    let t = Math.imul(seed ^ (seed >>> 15), 1 | seed);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 2 ** 32;
  };
}

/** The level of a state of the reel, far from zero, so that any cut is a click. */
const levelOf = (state: number) => Math.fround(0.3 + (0.4 * ((state * 7) % 11)) / 11);
/** What the reel is compared with here. */
const OTHER = Math.fround(0.45);
const sound = (length: number, level: number): Sound => [
  new Float32Array(length).fill(level),
  new Float32Array(length).fill(level),
];

/** The long tests try more. */
const SEEDS = import.meta.env.VITE_LONG ? 400 : 25;

it.each(Array.from({ length: SEEDS }, (_, seed) => seed))('nothing clicks, seed %i', (seed) => {
  const draw = numbers(seed);
  const below = (n: number) => Math.floor(draw() * n);
  const playback = new Playback(GRID, RATE);
  let length = SECONDS * RATE;
  const reel = () => length;
  playback.receive({ type: 'length', samples: length });
  playback.receive({ type: 'hand', serial: HAND });
  let state = 0;
  let before = 0;
  let side: Heard = 'treated';
  let gain = 1;
  /** What a render of the side that is heard has there. */
  const rendered = () => {
    if (side === 'other') return OTHER * gain;
    return side === 'difference' ? Math.fround(levelOf(state) - OTHER) : levelOf(state);
  };
  const acts: (() => void)[] = [
    () => {
      const index = below(SECONDS);
      playback.receive({
        type: 'block',
        side: 'treated',
        index,
        sound: sound(GRID, levelOf(state)),
        exact: true,
      });
    },
    () => {
      const exact = draw() < 0.5;
      const level = exact ? levelOf(state) : Math.fround(levelOf(state) - 0.1);
      // Any number of parts, over the edges of seconds as well.
      const [start, parts] = [below(SECONDS * PARTS - 1), 1 + below(8)];
      const some = sound((GRID / PARTS) * Math.min(parts, SECONDS * PARTS - start), level);
      const at = (start * GRID) / PARTS;
      playback.receive({ type: 'slice', side: 'treated', start: at, sound: some, exact });
    },
    () => {
      state++;
      playback.receive({ type: 'doubt', side: 'treated' });
    },
    () => playback.receive({ type: 'drop', side: 'treated', index: below(SECONDS) }),
    () => playback.receive({ type: 'seek', to: below(SECONDS * RATE) }),
    () => playback.receive({ type: 'play', from: below(SECONDS * RATE) }),
    () => playback.receive({ type: 'pause' }),
    () => playback.receive({ type: 'scrub', at: below(SECONDS * RATE) }),
    () => {
      length = (SHORTEST + below(SECONDS - 2)) * RATE;
      playback.receive({ type: 'length', samples: length });
    },
    () => playback.receive({ type: 'speed', speed: [1, 1, 0.5, 2][below(4)]! }),
    () => {
      const start = below(2) * RATE + below(2) * 333;
      const end = Math.min(start + 400 + below(2 * RATE), SHORTEST * RATE);
      playback.receive(draw() < 0.3 ? { type: 'noloop' } : { type: 'loop', start, end });
    },
    () => {
      const [index, whole] = [below(SECONDS), sound(GRID, OTHER)];
      playback.receive({ type: 'block', side: 'other', index, sound: whole, exact: true });
    },
    () => {
      side = (['treated', 'other', 'difference'] as const)[below(3)]!;
      playback.receive({ type: 'side', side });
    },
    () => {
      gain = [1, 0.5, 1.25][below(3)]!;
      playback.receive({ type: 'match', gain });
    },
    () => playback.receive({ type: 'drop', side: 'other', index: below(SECONDS) }),
    () => {
      // What a hand has done, somewhere ahead of the playhead.
      const fresh = draw() < 0.7;
      if (fresh) state++;
      const start = (below(SECONDS * PARTS - 1) * GRID) / PARTS;
      const length = Math.min((GRID / PARTS) * (1 + below(16)), SECONDS * RATE - start);
      const slices = [{ start, sound: sound(length, Math.fround(levelOf(state) - 0.1)) }];
      playback.receive({
        type: 'draft',
        serial: HAND,
        fresh,
        late: !fresh && draw() < 0.5,
        length: reel() - below(GRID),
        slices,
      });
    },
  ];
  const weights = [12, 12, 3, 1, 1, 2, 0.3, 0.5, 0.3, 0.3, 1, 8, 1, 0.7, 0.5, 4];
  const total = weights.reduce((a, b) => a + b);
  for (let turn = 0; turn < 1500; turn++) {
    for (let count = below(3); count > 0; count--) {
      let at = draw() * total;
      acts[weights.findIndex((w) => (at -= w) < 0)]!();
    }
    const [left, right, block] = [0, 1, 2].map(() => new Float32Array(QUANTUM));
    const from = playback.report(0).position;
    playback.fill(left!, right!, block);
    // At the end of the reel its last sample is heard as it is; at other speeds, nearly there.
    const { ended: over, position } = playback.report(0);
    const ended = over || Math.max(from, position) > length - RATE / 10;
    const wanted = Math.fround(rendered());
    for (let i = 0; i < QUANTUM; i++) {
      const value = left![i]!;
      const clicks = !ended && Math.abs(value - before) >= SOFT;
      const lies = block![i]! >= 0 && value !== wanted;
      if (clicks || lies) expect.fail(`turn ${turn}, sample ${i}: from ${before} to ${value}`);
      before = value;
    }
  }
});
