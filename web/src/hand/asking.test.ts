import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Report, ToWorklet } from '../player/messages';
import { Asking } from './asking';
import type { DraftNow, FromHand } from './messages';

const RATE = 1000;

interface Question {
  upon?: unknown;
  number: number;
  commands: { kind: string }[];
  sound: [number, number][];
  derived?: boolean;
  instead?: number;
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
  jumps: 0,
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

  it('hands the player silence where the draft has ended', () => {
    asking.setReport(report(500));
    asking.setDraft(draft('a'));
    const { number, sound } = asked.at(-1)!;
    const [[start, stop]] = sound as [[number, number]];
    const said = { number, revision: 3, patch: [], length: start + 100 };
    const sent = { ...said, sound: [{ start, samples: 100 }] };
    asking.take({ said: sent, sound: new Float32Array(200).fill(1) });
    const [message] = played;
    if (message?.type !== 'draft') throw new Error('nothing came');
    const [left] = message.slices[0]!.sound;
    expect(left).toHaveLength(stop - start);
    expect([left[0], left[99], left[100], left.at(-1)]).toEqual([1, 1, 0, 0]);
    // It is there: nothing of it is asked for over and over.
    vi.advanceTimersByTime(20);
    asking.setReport(report(510));
    expect(asked).toHaveLength(1);
  });

  it.each([
    ['is played, out of the way of what is right', true, 3, undefined, 1],
    ['is not played if it may be an edit twice', true, 4, undefined, 0],
    ['is played if the server knows of the edit', true, 4, 'e', 1],
    ['is not played if it was given up', false, 3, undefined, 0],
  ])('what was on its way when a draft was over %s', (_, kept, revision, sent, slices) => {
    asking.setReport(report(500));
    asking.setDraft(draft('a'));
    answer();
    asking.setDraft({ ...draft('a'), commands: asked[0]!.commands, sent });
    asking.setReport(report(700));
    vi.advanceTimersByTime(60);
    expect(asked).toHaveLength(2);
    expect((asked[1] as { edit_id?: string }).edit_id).toBe(sent);
    [played, told] = [[], []];
    asking.setDraft(undefined, kept);
    const { number, sound } = asked.at(-1)!;
    const samples = sound.reduce((n, [a, b]) => n + b - a, 0);
    const parts = sound.map(([start, stop]) => ({ start, samples: stop - start }));
    const said = { number, revision, patch: [], length: 9000, sound: parts };
    asking.take({ said, sound: new Float32Array(2 * samples).fill(1) });
    expect(played).toHaveLength(slices);
    if (slices) expect(played[0]).toMatchObject({ type: 'draft', serial: 1, fresh: false });
    expect(told).toHaveLength(slices);
    // Nothing is asked for any more, and an answer is taken once.
    vi.advanceTimersByTime(1000);
    asking.take({ said, sound: new Float32Array(2 * samples) });
    expect([asked.length, played.length]).toEqual([2, slices]);
  });

  it('says what the draft is made upon, until that has been recorded', () => {
    const upon = [{ edit_id: 'one', commands: [{ kind: 'before' }] }];
    asking.setDraft(draft('a', { upon }));
    expect(asked[0]!.upon).toEqual(upon);
    answer();
    vi.advanceTimersByTime(100);
    asking.setDraft(draft('a', { revision: 4 }));
    expect(asked.at(-1)).not.toHaveProperty('upon');
  });

  it('sees what a hand has come to rest on, and asks no more of it', () => {
    asking.setDraft(draft('a'));
    answer(asked[0], 'sound');
    asking.setDraft(draft('b'));
    vi.advanceTimersByTime(60);
    expect(asked[1]).toMatchObject({ commands: [{ kind: 'b' }] });
    expect(asked[1]).not.toHaveProperty('derived');
    answer(asked[1], 'sound');
    answer(asked[0], 'seen');
    vi.advanceTimersByTime(60);
    expect(asked[2]).toMatchObject({ commands: [{ kind: 'b' }], derived: true });
    answer(asked[2]);
    vi.advanceTimersByTime(1000);
    expect(asked).toHaveLength(3);
  });

  it('asks for the reserve now and then, not whenever a hand has not moved on yet', () => {
    const long = () => asked.filter(({ sound }) => sound.some(([a, b]) => b - a > 500)).length;
    let position = 500;
    /** So much later the newest question is answered, before the hand has moved on. */
    const late = (ms: number) => {
      vi.advanceTimersByTime(ms);
      asking.setReport(report((position += ms)));
      answer();
    };
    asking.setReport(report(position));
    asking.setDraft(draft('a'));
    late(120);
    expect(long()).toBe(1);
    late(60);
    for (const kind of ['b', 'c']) {
      asking.setDraft(draft(kind));
      expect(asked.at(-1)).toMatchObject({ commands: [{ kind }] });
      late(100);
    }
    expect(long()).toBe(1);
    asking.setDraft(draft('d'));
    late(100);
    expect(long()).toBe(2);
    // Of a hand that rests, what is there comes to an end: that is asked for as before.
    late(60);
    asking.setReport(report((position += 700)));
    expect(asked.at(-1)).toMatchObject({ commands: [{ kind: 'd' }] });
    expect(long()).toBe(3);
  });

  it('makes ready for a step that brings no reserve, and waits for nothing before it', () => {
    asking.setReport(report(500));
    asking.setDraft(draft('a', { commands: [] }));
    vi.advanceTimersByTime(60);
    answer();
    // A hand that takes its time: more of the sound as it was is on its way when it begins.
    asking.setReport(report(800));
    vi.advanceTimersByTime(60);
    expect(asked.at(-1)).toMatchObject({ number: 2, commands: [] });
    asking.setDraft(draft('a'));
    expect(asked.at(-1)).toMatchObject({ number: 3, commands: [{ kind: 'a' }], instead: 2 });
    const [start, stop] = asked.at(-1)!.sound[0]!;
    expect(stop - start).toBeLessThan(500);
    // The reserve comes when it has been heard.
    answer();
    asking.setReport(report(1000));
    vi.advanceTimersByTime(60);
    const [from, until] = asked.at(-1)!.sound[0]!;
    expect(until - from).toBeGreaterThan(500);
  });

  it('gives up what brings only more of what is there when the hand moves on', () => {
    let position = 500;
    const late = (ms: number) => {
      vi.advanceTimersByTime(ms);
      asking.setReport(report((position += ms)));
    };
    asking.setReport(report(position));
    asking.setDraft(draft('a'));
    late(120);
    answer();
    // More of it is under way, and what it looks like with it.
    expect(asked.at(-1)).toMatchObject({ number: 2, commands: [{ kind: 'a' }] });
    late(50);
    asking.setDraft(draft('b'));
    expect(asked.at(-1)).toMatchObject({ number: 3, commands: [{ kind: 'b' }], instead: 2 });
    // A step of the hand brings no more than it must.
    expect(asked.at(-1)!.sound[0]![1] - asked.at(-1)!.sound[0]![0]).toBeLessThan(500);
    // What a step brings is not given up, nor is it asked twice.
    late(50);
    asking.setDraft(draft('c'));
    expect(asked).toHaveLength(3);
    // What is given up and answered all the same is of no use any more.
    answer(asked[1]);
    expect(asked).toHaveLength(3);
    answer(asked[2]);
    expect(asked.at(-1)).toMatchObject({ number: 4, commands: [{ kind: 'c' }] });
    expect(asked.at(-1)).not.toHaveProperty('instead');
  });

  it('gives nothing up where what is there would not last until the answer', () => {
    asking.setReport(report(500));
    asking.setDraft(draft('a'));
    vi.advanceTimersByTime(120);
    asking.setReport(report(620));
    answer();
    expect(asked).toHaveLength(2);
    vi.advanceTimersByTime(50);
    asking.setReport(report(asked[0]!.sound.at(-1)![1] - 50));
    asking.setDraft(draft('b'));
    expect(asked).toHaveLength(2);
    answer();
    expect(asked.at(-1)).toMatchObject({ number: 3, commands: [{ kind: 'b' }] });
  });

  it('asks for what a hand does at once after it has only looked', () => {
    asking.setReport(report(500));
    asking.setDraft(draft('a'));
    asking.setDraft(draft('b'));
    answer(asked[0], 'sound');
    vi.advanceTimersByTime(40);
    expect(asked.at(-1)).toMatchObject({ commands: [{ kind: 'b' }] });
    expect(asked.at(-1)!.derived).toBeUndefined();
    answer(asked[1], 'sound');
    vi.advanceTimersByTime(40);
    // What “a” looks like has come: what “b” does is asked for alone.
    answer(asked[0], 'seen');
    expect(asked).toHaveLength(3);
    expect(asked[2]).toMatchObject({ commands: [{ kind: 'b' }], sound: [], derived: true });
    answer(asked[2], 'sound');
    asking.setDraft(draft('c'));
    expect(asked.at(-1)).toMatchObject({ commands: [{ kind: 'c' }] });
    // From one that brings sound to the next it takes its time.
    answer(asked[3], 'sound');
    asking.setDraft(draft('d'));
    expect(asked).toHaveLength(4);
    vi.advanceTimersByTime(40);
    expect(asked.at(-1)).toMatchObject({ commands: [{ kind: 'd' }] });
  });

  it('looks less often while answers are late', () => {
    asking.setReport(report(500));
    const looks = [];
    for (let n = 0; n < 12; n++) {
      asking.setDraft(draft(`${n}`));
      vi.advanceTimersByTime(150);
      looks.push(asked.at(-1)!.derived ?? false);
      answer();
    }
    expect(looks.filter(Boolean).length).toBeLessThanOrEqual(6);
    expect(looks.filter(Boolean).length).toBeGreaterThanOrEqual(3);
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

  it('asks at once for what is typed, and only then for what is taken hold of', () => {
    asking.setReport(report(500));
    asking.setDraft(draft('', { commands: [] }));
    asking.setDraft(draft('typed'));
    expect(asked.map((q) => q.commands)).toEqual([[{ kind: 'typed' }]]);
    answer();
    asking.setDraft(undefined);
    vi.advanceTimersByTime(1000);
    asking.setDraft(draft('', { commands: [], serial: 2 }));
    expect(asked).toHaveLength(1);
    vi.advanceTimersByTime(100);
    expect(asked.at(-1)!.commands).toEqual([]);
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
    vi.advanceTimersByTime(60);
    answer();
    vi.advanceTimersByTime(60);
    asking.setDraft(draft('a'));
    answer();
    vi.advanceTimersByTime(60);
    asking.setDraft(draft('a', { commands: [] }));
    answer();
    // Before the hand has done anything its sound is as it was, and may fill a gap.
    const drafts = played.filter((m) => m.type === 'draft');
    expect(drafts.map((m) => m.fresh)).toEqual([false, true, true]);
    const heard = told.filter((m) => m.type === 'heard');
    expect(heard.map((m) => m.commands.length)).toEqual([0, 1, 0]);
    // It goes on to be heard as the playhead moves: its reserve, and what comes after that.
    vi.advanceTimersByTime(60);
    answer();
    asking.setReport(report(1200));
    vi.advanceTimersByTime(60);
    expect(asked.at(-1)!.commands).toEqual([]);
    expect(asked.at(-1)!.sound[0]![0]).toBeGreaterThanOrEqual(1200);
  });

  /** Seconds of each question while a hand moves on and on, and the playhead with it. */
  function lengths(answeredAfter: number): number[] {
    const before = asked.length;
    let [known, since] = [before, 0];
    for (let t = 0; t < 3000; t += 10) {
      asking.setReport(report(500 + t));
      asking.setDraft(draft(String(t)));
      if (asked.length > known) [known, since] = [asked.length, t];
      vi.advanceTimersByTime(10);
      if (t === since + answeredAfter) answer();
    }
    return asked.slice(before).map(({ sound }) => (sound[0]![1] - sound[0]![0]) / RATE);
  }

  it('keeps a reserve while answers come quickly', () => {
    const seconds = lengths(20);
    const long = seconds.filter((s) => s > 0.7).length;
    expect(seconds[0]).toBeLessThan(0.4);
    // Every third of a second, about.
    expect(long).toBeGreaterThan(5);
    expect(long).toBeLessThan(seconds.length / 3);
  });

  it('asks for more of each the later answers come', () => {
    const usual = (answeredAfter: number) => lengths(answeredAfter).sort()[5]!;
    expect(usual(20)).toBeLessThan(0.4);
    expect(usual(300)).toBeGreaterThan(0.55);
  });

  it('where nothing is there it asks for little, and for as much as lasts while answers are late', () => {
    lengths(300);
    asking.setDraft(undefined);
    asking.setReport(report(50_000));
    vi.advanceTimersByTime(1000);
    asking.setReport(report(60_000));
    asking.setDraft(draft('again', { serial: 2 }));
    const [[start, stop]] = asked.at(-1)!.sound as [[number, number]];
    expect(start).toBe(60_000);
    expect((stop - start) / RATE).toBeGreaterThan(0.55);
    expect((stop - start) / RATE).toBeLessThan(0.75);
  });

  it.each([150, 400, 2000])(
    'is not always asking while a hand rests in a loop of %i ms',
    (long) => {
      asking.setTransport({ loop: { start: 500, end: 500 + long }, treated: true });
      asking.setReport(report(500));
      asking.setDraft(draft('a'));
      answer();
      const before = asked.length;
      for (let t = 0; t < 4000; t += 10) {
        asking.setReport(report(500 + (t % long)));
        const known = asked.length;
        vi.advanceTimersByTime(10);
        if (asked.length > known) answer();
      }
      // Twice a round at most, and a few times a second.
      const most = Math.max(6, 2 * (1000 / long));
      expect((asked.length - before) / 4).toBeLessThanOrEqual(most);
    },
  );

  it('asks where the player waits, whatever is thought to be there', () => {
    asking.setReport(report(500));
    asking.setDraft(draft('a'));
    answer();
    vi.advanceTimersByTime(60);
    answer();
    const known = asked.length;
    asking.setReport(report(600, { starving: true }));
    vi.advanceTimersByTime(60);
    expect(asked.length).toBeGreaterThan(known);
  });

  it('asks for little where it has jumped to', () => {
    lengths(20);
    asking.setReport(report(90_000));
    asking.setDraft(draft('there'));
    vi.advanceTimersByTime(60);
    answer();
    const { sound } = asked.find((q) => q.sound[0]![0] >= 90_000)!;
    expect((sound[0]![1] - sound[0]![0]) / RATE).toBeLessThan(0.4);
  });

  it('goes on with what was accepted where the hand is refused', () => {
    asking.setReport(report(500));
    asking.setDraft(draft('a'));
    answer();
    vi.advanceTimersByTime(60);
    answer();
    asking.setDraft(draft('too far'));
    vi.advanceTimersByTime(60);
    const { number } = asked.at(-1)!;
    asking.take({ said: { number, refused: 'no' }, sound: new Float32Array(0) });
    vi.advanceTimersByTime(60);
    asking.setReport(report(1080));
    vi.advanceTimersByTime(60);
    expect(asked.at(-1)!.commands).toEqual([{ kind: 'a' }]);
    answer();
    expect(played.filter((m) => m.type === 'draft')).toHaveLength(3);
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
