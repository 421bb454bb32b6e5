import { describe, expect, it } from 'vitest';
import { FADE_SECONDS, Playback } from './playback';
import type { Sound } from './shelf';

const RATE = 8000;
const GRID = RATE;
const FADE = Math.round(FADE_SECONDS * RATE);
const QUANTUM = 128;

/** A sound whose samples tell their place, far from zero, so that any cut is a click. */
function block(index: number, add = 0): Sound {
  const side = Float32Array.from({ length: GRID }, (_, k) => 0.5 + (index * GRID + k) / 1e6 + add);
  return [side, side.map((v) => -v)];
}

function valueOf(sample: number, add = 0): number {
  return Math.fround(0.5 + sample / 1e6 + add);
}

class Deck {
  readonly playback = new Playback(GRID, RATE);
  readonly left: number[] = [];
  readonly where: number[] = [];

  constructor(seconds = 6, have: number[] = [0, 1, 2, 3, 4, 5]) {
    this.playback.receive({ type: 'length', samples: seconds * RATE });
    for (const index of have) this.give(index);
  }

  give(index: number, add = 0) {
    const sound = block(index, add);
    this.playback.receive({ type: 'block', side: 'treated', index, sound, exact: true });
    this.playback.receive({
      type: 'block',
      side: 'other',
      index,
      sound: block(index, 0.2),
      exact: true,
    });
  }

  run(samples: number) {
    for (let done = 0; done < samples; done += QUANTUM) {
      const [l, r, at, offset] = [0, 1, 2, 3].map(() => new Float32Array(QUANTUM));
      this.playback.fill(l!, r!, at, offset);
      this.left.push(...l!);
      for (let i = 0; i < QUANTUM; i++)
        this.where.push(at![i]! < 0 ? -1 : at![i]! * GRID + offset![i]!);
    }
  }

  /** The largest step from one sample to the next. */
  step(from = 0): number {
    let most = Math.abs(this.left[from] ?? 0) * (from === 0 ? 1 : 0);
    for (let i = from + 1; i < this.left.length; i++)
      most = Math.max(most, Math.abs(this.left[i]! - this.left[i - 1]!));
    return most;
  }
}

/** A fade of 5 ms from 0.5 to nothing takes no larger step than this. */
const SOFT = (0.75 * 1.6) / FADE;

describe('playback', () => {
  it('plays the very samples, after it has faded in', () => {
    const deck = new Deck();
    deck.playback.receive({ type: 'play', from: 100 });
    deck.run(2 * RATE);
    expect(deck.left[0]).toBeLessThan(SOFT);
    for (const [i, sample] of deck.where.entries()) {
      if (i >= FADE) expect(sample).toBe(100 + i);
      if (sample >= 0) expect(deck.left[i]).toBe(valueOf(sample));
    }
    expect(deck.step()).toBeLessThan(SOFT);
  });

  it('fades when it is paused, and stands where it was paused', () => {
    const deck = new Deck();
    deck.playback.receive({ type: 'play', from: 0 });
    deck.run(1024);
    deck.playback.receive({ type: 'pause' });
    deck.run(1024);
    expect(deck.left.at(-1)).toBe(0);
    expect(deck.left[1024 + FADE + 1]).toBe(0);
    expect(deck.step()).toBeLessThan(SOFT);
    expect(deck.playback.report(0)).toMatchObject({ position: 1024, playing: false });
  });

  it.each([2 * RATE + 17, 0, 5 * RATE])('does not click when it jumps to %i', (to) => {
    const deck = new Deck();
    deck.playback.receive({ type: 'play', from: RATE });
    deck.run(1024);
    deck.playback.receive({ type: 'seek', to });
    deck.run(1024);
    expect(deck.step()).toBeLessThan(SOFT);
    expect(deck.where[1024 + FADE + 2]).toBe(to + FADE + 2);
  });

  it('does not click through a whole series of jumps', () => {
    const deck = new Deck();
    deck.playback.receive({ type: 'play', from: RATE });
    deck.run(512);
    for (let i = 0; i < 12; i++) {
      deck.playback.receive({ type: 'seek', to: ((i * 7) % 5) * RATE + 333 });
      if (i % 3 === 0) deck.playback.receive({ type: 'side', side: i % 2 ? 'treated' : 'other' });
      deck.run(128);
    }
    expect(deck.step()).toBeLessThan(2.5 * SOFT);
  });

  it.each([
    [2 * RATE, 3 * RATE],
    [1.5 * RATE, 1.75 * RATE],
    [0, 6 * RATE],
  ])('wraps from the end of a loop to its beginning without a click', (start, end) => {
    const deck = new Deck();
    deck.playback.receive({ type: 'loop', start, end });
    deck.playback.receive({ type: 'play', from: end - 512 });
    deck.run(2048);
    expect(deck.step()).toBeLessThan(SOFT);
    expect(deck.where[400]).toBe(end - 512 + 400);
    expect(deck.where[1000]).toBe(start + 1000 - 512);
  });

  it('falls silent before there is nothing more, and rises when it has come', () => {
    const deck = new Deck(6, [0]);
    deck.playback.receive({ type: 'play', from: GRID - 2000 });
    deck.run(3072);
    expect(deck.playback.report(0)).toMatchObject({ starving: true, position: GRID });
    expect(deck.left.at(-1)).toBe(0);
    deck.give(1);
    deck.run(1024);
    expect(deck.step()).toBeLessThan(SOFT);
    expect(deck.where.at(-1)).toBeGreaterThan(GRID + 900);
    expect(deck.playback.report(0).starving).toBe(false);
  });

  it.each([1, 0.5])(
    'at %f× begins and goes on when there is enough, not with a sliver',
    (speed) => {
      const deck = new Deck(6, []);
      const slice = (start: number, samples: number) => {
        const sound = block(0).map((side) => side.slice(0, samples)) as Sound;
        deck.playback.receive({ type: 'slice', side: 'treated', start, sound, exact: true });
      };
      deck.playback.receive({ type: 'speed', speed });
      deck.playback.receive({ type: 'play', from: GRID - 400 });
      slice(GRID - 400, 400);
      deck.run(1024);
      expect(deck.playback.report(0)).toMatchObject({ starving: true, position: GRID - 400 });
      slice(GRID, GRID / 5);
      deck.run(512);
      expect(deck.playback.report(0).starving).toBe(false);
      deck.run(4096 / speed);
      expect(deck.playback.report(0).starving).toBe(true);
      const { position } = deck.playback.report(0);
      // Where it stands still it waits for more than a sliver, but not behind the reel's end.
      slice(GRID + GRID / 5, 400);
      deck.run(512);
      expect(deck.playback.report(0)).toMatchObject({ starving: true, position });
      expect(deck.step()).toBeLessThan(SOFT);
      deck.playback.receive({ type: 'length', samples: GRID + GRID / 5 + 400 });
      deck.run(4096);
      expect(deck.playback.report(0).ended).toBe(true);
    },
  );

  it('goes from behind a loop to its beginning', () => {
    const deck = new Deck(6, [0, 1, 2]);
    deck.playback.receive({ type: 'loop', start: 100, end: 900 });
    deck.playback.receive({ type: 'play', from: 1500 });
    deck.run(1024);
    const places = deck.where.filter((sample) => sample >= 0);
    expect(places.length).toBeGreaterThan(0);
    expect(Math.min(...places)).toBeGreaterThanOrEqual(100);
    expect(Math.max(...places)).toBeLessThan(900);
  });

  it('begins in a loop that is shorter than what is enough', () => {
    const deck = new Deck(6, [0]);
    const loop = { type: 'loop', start: 100, end: 100 + RATE / 20 } as const;
    deck.playback.receive(loop);
    deck.playback.receive({ type: 'play', from: loop.start });
    deck.run(2048);
    expect(deck.playback.report(0)).toMatchObject({ playing: true, starving: false });
    expect(deck.where.every((sample) => sample < loop.end)).toBe(true);
    expect(deck.step()).toBeLessThan(SOFT);
  });

  it('loses its block in the middle without a click', () => {
    const deck = new Deck();
    deck.playback.receive({ type: 'play', from: 0 });
    deck.run(1024);
    deck.playback.receive({ type: 'drop', side: 'treated', index: 0 });
    deck.run(1024);
    expect(deck.playback.report(0).starving).toBe(true);
    deck.give(0);
    deck.run(1024);
    expect(deck.step(1100)).toBeLessThan(SOFT);
  });

  it('plays the last sample of the reel as it is, and ends', () => {
    const deck = new Deck(2);
    deck.playback.receive({ type: 'play', from: 2 * RATE - 500 });
    deck.run(1024);
    expect(deck.left[499]).toBe(valueOf(2 * RATE - 1));
    expect(deck.left[500]).toBe(0);
    expect(deck.playback.report(0)).toMatchObject({ ended: true, playing: false });
  });

  it('fades from a block to the one that replaces it, and not where they are equal', () => {
    const deck = new Deck();
    deck.playback.receive({ type: 'play', from: 0 });
    deck.run(1024);
    deck.give(0);
    deck.run(256);
    expect(deck.where.at(-1)).toBe(1279);
    expect(deck.where[1030]).toBe(1030);
    deck.playback.receive({ type: 'doubt', side: 'treated' });
    deck.give(0, 0.25);
    deck.run(1024);
    expect(deck.step()).toBeLessThan(SOFT);
    expect(deck.left.at(-1)).toBe(valueOf(2303, 0.25));
  });

  it('takes a part of a block at once and keeps what lies around it', () => {
    const deck = new Deck();
    deck.playback.receive({ type: 'play', from: 0 });
    deck.run(512);
    const sound = block(0, 0.25).map((side) => side.slice(GRID / 5, (2 * GRID) / 5)) as Sound;
    const part = { type: 'slice', side: 'treated', start: GRID / 5, sound } as const;
    deck.playback.receive({ ...part, exact: true });
    deck.run(GRID - 512);
    const at = (sample: number) => deck.left[deck.where.indexOf(sample)];
    expect(at(1000)).toBe(valueOf(1000));
    expect(at(2000)).toBe(valueOf(2000, 0.25));
    expect(at(4000)).toBe(valueOf(4000));
  });

  it('does not say of a part that was worked out in a hurry that it is exact', () => {
    const deck = new Deck(6, []);
    const sound = block(0).map((side) => side.slice(0, GRID / 5)) as Sound;
    const part = { type: 'slice', side: 'treated', start: 0, sound } as const;
    deck.playback.receive({ ...part, exact: false });
    deck.playback.receive({ type: 'play', from: 0 });
    deck.run(1024);
    expect(deck.left[1000]).toBe(valueOf(1000));
    expect(deck.where[1000]).toBe(-1);
    deck.give(0);
    deck.run(1024);
    expect(deck.where.at(-1)).toBe(2047);
  });

  it('plays on with what a hand did a moment ago when the next answer is late', () => {
    const deck = new Deck(6, []);
    const draft = (start: number, seconds: number, level: number) => {
      const sound = block(0, level).map((side) => side.slice(0, seconds * RATE)) as Sound;
      const slices = [{ start, sound }];
      const length = 6 * RATE;
      deck.playback.receive({ type: 'draft', serial: 7, fresh: true, length, slices });
    };
    deck.playback.receive({ type: 'hand', serial: 7 });
    draft(0, 0.8, 0.25);
    deck.playback.receive({ type: 'play', from: 0 });
    deck.run(1024);
    draft(RATE / 10, 0.3, 0.5);
    deck.run(0.6 * RATE - 1024);
    expect(deck.playback.report(0).starving).toBe(false);
    expect(deck.step()).toBeLessThan(SOFT);
    deck.run(0.3 * RATE);
    expect(deck.playback.report(0).starving).toBe(true);
  });

  it.each([true, false])('takes what comes late of a draft once, doubted before: %s', (doubted) => {
    const deck = new Deck();
    const level = () => deck.left.at(-1)!;
    const sent = (late: boolean, value: number) => {
      const side = new Float32Array(RATE / 2).fill(value);
      const slices = [{ start: 0, sound: [side, side.slice()] as Sound }];
      const message = { type: 'draft', serial: 7, fresh: false, late, length: 6 * RATE } as const;
      deck.playback.receive({ ...message, slices });
    };
    deck.playback.receive({ type: 'hand', serial: 7 });
    deck.playback.receive({ type: 'play', from: 0 });
    deck.run(1024);
    if (doubted) deck.playback.receive({ type: 'doubt', side: 'treated' });
    sent(true, 0.25);
    deck.run(1024);
    expect(level()).toBe(0.25);
    // What the edit itself has brought stays.
    deck.playback.receive({ type: 'doubt', side: 'treated' });
    deck.playback.receive({
      type: 'block',
      side: 'treated',
      index: 0,
      sound: block(0, 0.1),
      exact: true,
    });
    sent(true, 0.9);
    deck.run(1024);
    expect(level()).not.toBe(0.9);
    expect(deck.step()).toBeLessThan(SOFT);
  });

  it('goes on past the end of a draft in silence, and ends when that is let go of', () => {
    const deck = new Deck(6, []);
    const draft = (level: number, length: number) => {
      const silent: Sound = [new Float32Array(RATE - length), new Float32Array(RATE - length)];
      const sound = block(0, level).map((side) => side.slice(0, length)) as Sound;
      const slices = [
        { start: 0, sound },
        { start: length, sound: silent },
      ];
      deck.playback.receive({ type: 'draft', serial: 7, fresh: true, length, slices });
    };
    deck.playback.receive({ type: 'hand', serial: 7 });
    draft(0.25, RATE / 2);
    deck.playback.receive({ type: 'play', from: 0 });
    deck.run(0.75 * RATE);
    expect(deck.playback.report(0)).toMatchObject({ playing: true, starving: false, ended: false });
    expect(deck.left.at(-1)).toBe(0);
    deck.playback.receive({ type: 'length', samples: RATE / 2 });
    deck.run(512);
    expect(deck.playback.report(0)).toMatchObject({ playing: false, ended: true });
  });

  it('goes on for a moment with what is out of date, then waits', () => {
    const deck = new Deck();
    deck.playback.receive({ type: 'play', from: 0 });
    deck.run(1024);
    deck.playback.receive({ type: 'doubt', side: 'treated' });
    deck.run(RATE / 8);
    expect(deck.playback.report(0).starving).toBe(false);
    deck.run(RATE / 2);
    expect(deck.playback.report(0).starving).toBe(true);
    expect(deck.step()).toBeLessThan(SOFT);
    deck.playback.receive({ type: 'right', side: 'treated', index: 0, exact: true });
    deck.run(1024);
    expect(deck.playback.report(0).starving).toBe(false);
  });

  it('goes on for longer while a hand is at work: its own sound is on its way', () => {
    const deck = new Deck();
    deck.playback.receive({ type: 'hand', serial: 3 });
    deck.playback.receive({ type: 'play', from: 0 });
    deck.run(1024);
    deck.playback.receive({ type: 'doubt', side: 'treated' });
    deck.run(0.7 * RATE);
    expect(deck.playback.report(0).starving).toBe(false);
    deck.run(RATE / 4);
    expect(deck.playback.report(0).starving).toBe(true);
    expect(deck.step()).toBeLessThan(SOFT);
  });

  it.each([0, 100, 1000])('joins states of the reel without a click, %i samples in', (rest) => {
    const deck = new Deck(6, [0]);
    deck.playback.receive({ type: 'play', from: GRID - 2048 - rest });
    deck.run(2048);
    deck.playback.receive({ type: 'doubt', side: 'treated' });
    deck.give(1, 0.25);
    deck.run(2048);
    expect(deck.step()).toBeLessThan(SOFT);
    expect(deck.left.at(-1)).toBe(valueOf(deck.where.at(-1)!, 0.25));
    // What was played is replaced behind the playhead: what follows is still another sound.
    deck.give(0, 0.25);
    deck.run(512);
    expect(deck.step()).toBeLessThan(SOFT);
  });

  it('leaves states of the reel alone where they meet without a step', () => {
    const deck = new Deck(6, [0]);
    deck.playback.receive({ type: 'play', from: GRID - 2048 });
    deck.run(1792);
    deck.playback.receive({ type: 'doubt', side: 'treated' });
    deck.give(1);
    deck.run(1024);
    for (const [i, sample] of deck.where.entries())
      if (i >= 2048) expect(sample).toBe(GRID - 2048 + i);
    // The old of what is out of date is no sample of a render.
    expect(new Set(deck.where.slice(1792, 2048))).toEqual(new Set([-1]));
  });

  it('never begins anything with what is out of date: neither a loop nor a jump', () => {
    for (const act of ['wrap', 'seek', 'play'] as const) {
      const deck = new Deck();
      const loop = { type: 'loop', start: 2 * RATE, end: 4 * RATE } as const;
      deck.playback.receive(loop);
      deck.playback.receive({ type: 'play', from: 4 * RATE - (act === 'wrap' ? 900 : 3000) });
      deck.run(512);
      deck.playback.receive({ type: 'doubt', side: 'treated' });
      deck.give(3, 0.25);
      if (act === 'seek') deck.playback.receive({ type: 'seek', to: 2 * RATE });
      if (act === 'play') {
        deck.playback.receive({ type: 'pause' });
        deck.playback.receive({ type: 'play', from: 2 * RATE });
      }
      deck.run(2048);
      expect(deck.playback.report(0)).toMatchObject({ starving: true, position: 2 * RATE });
      // Nothing of the stale beginning has been heard.
      expect(deck.where.some((s) => s >= 2 * RATE && s < 3 * RATE)).toBe(false);
      deck.give(2, 0.25);
      deck.run(1024);
      expect(deck.left.at(-1)).toBe(valueOf(deck.where.at(-1)!, 0.25));
    }
  });

  it('changes sides without a click', () => {
    const deck = new Deck();
    deck.playback.receive({ type: 'play', from: 0 });
    deck.run(1024);
    deck.playback.receive({ type: 'side', side: 'other' });
    deck.run(1024);
    expect(deck.step()).toBeLessThan(SOFT);
    expect(deck.left.at(-1)).toBe(valueOf(2047, 0.2));
  });

  it('plays at half and double speed, and pauses there without a click', () => {
    for (const speed of [0.5, 2]) {
      const deck = new Deck();
      deck.playback.receive({ type: 'speed', speed });
      deck.playback.receive({ type: 'play', from: RATE });
      deck.run(4096);
      const { position } = deck.playback.report(0);
      expect(position).toBeCloseTo(RATE + speed * 4096, -2);
      deck.playback.receive({ type: 'pause' });
      deck.run(512);
      expect(deck.left.at(-1)).toBe(0);
    }
  });
});
