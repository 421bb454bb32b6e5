import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Report, ToWorklet } from '../player/messages';
import { Asking } from './asking';
import type { DraftNow, FromHand } from './messages';

const RATE = 1000;

interface Question {
  number: number;
  commands: { kind: string }[];
  sound: [number, number][];
  derived?: boolean;
}

let asked: Question[];
let played: ToWorklet[];
let told: FromHand[];
let open: boolean;
let asking: Asking;

const draft = (kind: string, more: Partial<DraftNow> = {}): DraftNow => ({
  serial: 1,
  commands: [{ kind }],
  revision: 3,
  drawing: undefined,
  at: 0,
  ...more,
});

const report = (position: number, more: Partial<Report> = {}): Report => ({
  type: 'at',
  position,
  frame: 0,
  playing: true,
  starving: false,
  peaks: [0, 0],
  ended: false,
  ...more,
});

/** The server answers the newest question: its sound, then what there is to see. */
function answer(question = asked.at(-1)!, parts: 'both' | 'sound' | 'seen' = 'both') {
  const { number, sound } = question;
  const samples = sound.reduce((n, [a, b]) => n + b - a, 0);
  const said = {
    number,
    revision: 3,
    patch: [],
    length: 9000,
    sound: sound.map(([start, stop]) => ({ start, samples: stop - start })),
  };
  if (parts !== 'seen') asking.take({ said, sound: new Float32Array(2 * samples).fill(number) });
  if (parts !== 'sound' && question.derived)
    asking.take({ said: { number, drawing: null, derived: null }, sound: new Float32Array(0) });
}

beforeEach(() => {
  vi.useFakeTimers();
  [asked, played, told, open] = [[], [], [], true];
  asking = new Asking(RATE, {
    ask: (question) => open && asked.push(question as Question) > 0,
    toPlayer: (message) => played.push(message),
    toPage: (message) => told.push(message),
    now: () => Date.now(),
  });
});
afterEach(() => vi.useRealTimers());

describe('asking for a draft', () => {
  it('asks one question at a time, and always the newest', () => {
    asking.setReport(report(500));
    for (const kind of ['a', 'b', 'c']) asking.setDraft(draft(kind));
    expect(asked.map((q) => q.commands[0]!.kind)).toEqual(['a']);
    vi.advanceTimersByTime(100);
    expect(asked).toHaveLength(1);
    answer();
    expect(asked.map((q) => q.commands[0]!.kind)).toEqual(['a', 'c']);
  });

  it('keeps questions apart, and does not wait for a hand to rest', () => {
    asking.setReport(report(500));
    let kinds = 0;
    for (let t = 0; t < 1000; t += 10) {
      asking.setDraft(draft(String(kinds++)));
      if (asked.length) answer();
      vi.advanceTimersByTime(10);
    }
    expect(asked.length).toBeGreaterThan(15);
    expect(asked.length).toBeLessThanOrEqual(26);
  });

  it('hands the sound to the player, and says whether it is another state', () => {
    asking.setReport(report(500));
    asking.setDraft(draft('a'));
    expect(asked[0]!.sound).toEqual([[500, 800]]);
    answer();
    asking.setReport(report(720));
    vi.advanceTimersByTime(60);
    answer();
    const drafts = played.filter((m) => m.type === 'draft');
    expect(drafts.map((m) => m.fresh)).toEqual([true, false]);
    expect(drafts[0]!.slices[0]!.start).toBe(500);
    expect(drafts[0]!.slices[0]!.sound[0].length).toBe(300);
    expect(told.filter((m) => m.type === 'heard')).toHaveLength(2);
  });

  it('asks for what is exactly missing where the player waits', () => {
    asking.setReport(report(512.5, { starving: true }));
    asking.setDraft(draft('a'));
    expect(asked[0]!.sound[0]![0]).toBe(500);
  });

  it('goes over the end of a loop to its beginning', () => {
    asking.setTransport({ loop: { start: 100, end: 600 }, treated: true });
    asking.setReport(report(500));
    asking.setDraft(draft('a'));
    expect(asked[0]!.sound).toEqual([
      [500, 600],
      [100, 300],
    ]);
  });

  it('wants no sound while nothing plays, or the untreated sound does', () => {
    asking.setDraft(draft('a'));
    expect(asked[0]!.sound).toEqual([]);
    answer();
    vi.advanceTimersByTime(60);
    asking.setTransport({ loop: undefined, treated: false });
    asking.setReport(report(500));
    expect(asked).toHaveLength(1);
  });

  it('hands nothing on when the draft is over', () => {
    asking.setReport(report(500));
    asking.setDraft(draft('a'));
    asking.setDraft(undefined);
    answer();
    expect(played).toEqual([]);
    expect(told.filter((m) => m.type === 'heard')).toEqual([]);
  });

  it('is not held up by what is slow to see', () => {
    asking.setReport(report(500));
    asking.setDraft(draft('a'));
    answer(asked[0], 'sound');
    asking.setDraft(draft('b'));
    vi.advanceTimersByTime(60);
    expect(asked.map((q) => Boolean(q.derived))).toEqual([true, false]);
    answer(asked[0], 'seen');
    expect(told.some((m) => m.type === 'seen')).toBe(true);
  });

  it('lets be heard what there was before when the hand goes back to where it began', () => {
    asking.setReport(report(500));
    asking.setDraft(draft('a', { commands: [] }));
    answer();
    expect(played).toEqual([]);
    vi.advanceTimersByTime(60);
    asking.setDraft(draft('a'));
    answer();
    vi.advanceTimersByTime(60);
    asking.setDraft(draft('a', { commands: [] }));
    answer();
    const drafts = played.filter((m) => m.type === 'draft');
    expect(drafts.map((m) => m.fresh)).toEqual([true, true]);
    const heard = told.filter((m) => m.type === 'heard');
    expect(heard.map((m) => m.commands.length)).toEqual([1, 0]);
    // It goes on to be heard as the playhead moves.
    asking.setReport(report(720));
    vi.advanceTimersByTime(60);
    expect(asked.at(-1)!.commands).toEqual([]);
    expect(asked.at(-1)!.sound[0]![0]).toBeGreaterThanOrEqual(720);
  });

  it('goes on with what was accepted where the hand is refused', () => {
    asking.setReport(report(500));
    asking.setDraft(draft('a'));
    answer();
    vi.advanceTimersByTime(60);
    asking.setDraft(draft('too far'));
    const { number } = asked.at(-1)!;
    asking.take({ said: { number, refused: 'no' }, sound: new Float32Array(0) });
    vi.advanceTimersByTime(60);
    asking.setReport(report(780));
    vi.advanceTimersByTime(60);
    expect(asked.at(-1)!.commands).toEqual([{ kind: 'a' }]);
    answer();
    expect(played.filter((m) => m.type === 'draft')).toHaveLength(2);
    // And with the next thing that can be done.
    asking.setDraft(draft('b'));
    answer();
    vi.advanceTimersByTime(60);
    expect(asked.at(-1)!.commands).toEqual([{ kind: 'b' }]);
  });

  it('asks again over a new line, and after a refusal', () => {
    open = false;
    asking.setReport(report(500));
    asking.setDraft(draft('a'));
    expect(asked).toEqual([]);
    open = true;
    asking.again();
    expect(asked).toHaveLength(1);
    const { number } = asked[0]!;
    asking.take({ said: { number, refused: 'no' }, sound: new Float32Array(0) });
    vi.advanceTimersByTime(60);
    asking.setDraft(draft('b'));
    expect(asked).toHaveLength(2);
  });
});
