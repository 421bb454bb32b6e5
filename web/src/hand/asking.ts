/**
 * Asks the server what the draft looks and sounds like, for as long as there is one.
 *
 * One question at a time, and always the newest: the one under way is never given up, so a hand that
 * does not rest is answered as often as a server can. What is about to be played is asked for again
 * when the playhead comes near the end of what is there. Sound goes straight to the player.
 */
import type { Report, Sound, ToWorklet } from '../player/messages';
import type { Derived } from '../reel/draft';
import type { Op } from '../reel/patch';
import type { Frame } from './line';
import type { DraftNow, DrawingData, FromHand, Range, Transport } from './messages';
import { comingUp } from './ranges';

/** From one question to the next, at least. */
const APART_MS = 40;
/** Sound is asked for so far ahead, and again when less than this is there. */
const AHEAD_SECONDS = 0.3;
const NEAR_SECONDS = 0.2;
/** The player tells where it is more often than that. */
const FORGOTTEN_MS = 100;

const NOTHING: DraftNow['commands'] = [];

interface Heard {
  revision: number;
  patch: Op[];
  length: number;
  sound: { start: number; samples: number }[];
}

interface Seen {
  derived: Derived | null;
  drawing: DrawingData | null;
}

/** A question that is under way. */
interface Asked {
  number: number;
  draft: DraftNow;
  heard?: Heard;
}

interface Ways {
  /** Whether the question is on its way. */
  ask: (question: object) => boolean;
  toPlayer: (message: ToWorklet) => void;
  toPage: (message: FromHand) => void;
  now: () => number;
}

export class Asking {
  private draft: DraftNow | undefined;
  private transport: Transport = { loop: undefined, treated: true };
  private report: (Report & { when: number }) | undefined;
  private count = 0;
  /** The newest question; while `waits`, its first answer has not come. */
  private latest: Asked | undefined;
  private waits = false;
  /** The question whose second answer has not come. */
  private looking: Asked | undefined;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private notBefore = 0;
  /** What is there for the draft as it was when it was last heard. */
  private held: Range | undefined;
  private heardOf: DraftNow | undefined;
  /** What was refused: what was heard last goes on to be heard. */
  private refused: DraftNow['commands'] | undefined;

  constructor(
    private readonly rate: number,
    private readonly ways: Ways,
  ) {}

  setDraft(draft: DraftNow | undefined) {
    this.draft = draft;
    if (!draft) {
      this.latest = undefined;
      this.waits = false;
      this.held = undefined;
      this.heardOf = undefined;
      this.refused = undefined;
    }
    this.look();
  }

  setTransport(transport: Transport) {
    this.transport = transport;
    this.look();
  }

  /** The player says where it is. */
  setReport(report: Report) {
    this.report = { ...report, when: this.ways.now() };
    this.look();
  }

  /** The line is new: nothing that was asked over another one is answered. */
  again() {
    this.latest = undefined;
    this.looking = undefined;
    this.waits = false;
    this.look();
  }

  take({ said, sound }: Frame) {
    const { latest, looking } = this;
    if ('patch' in said && said.number === latest?.number) {
      this.waits = false;
      latest.heard = said as unknown as Heard;
      this.hear(latest, latest.heard, sound);
    } else if ('drawing' in said && said.number === looking?.number) {
      this.looking = undefined;
      if (looking.heard) this.see(looking, looking.heard, said as unknown as Seen);
    } else if ('refused' in said) {
      // What cannot be done is not shown; letting go of it says why.
      if (said.number === latest?.number) {
        this.waits = false;
        if (latest.draft.commands !== this.heardOf?.commands) this.refused = latest.draft.commands;
      }
      if (said.number === looking?.number) this.looking = undefined;
    }
    this.look();
  }

  /** Ask if there is something to ask. */
  private look() {
    clearTimeout(this.timer);
    const { latest } = this;
    const draft = this.possible();
    // Before a hand has done anything there is nothing to see; while it plays, the server makes ready.
    if (this.waits || !draft || (!draft.commands.length && !this.report?.playing)) return;
    const before = latest?.draft;
    const moved = draft.commands !== before?.commands || draft.revision !== before.revision;
    const sound = this.wanted(moved);
    if (!moved && !sound.length) return;
    const wait = this.notBefore - this.ways.now();
    if (wait > 0) {
      this.timer = setTimeout(() => this.look(), wait);
      return;
    }
    const number = ++this.count;
    const { commands, drawing, at } = draft;
    const looks = !this.looking;
    const shown = looks && { derived: true, drawing: drawing ? { ...drawing, at } : null };
    if (!this.ways.ask({ number, commands, sound, ...shown })) return;
    this.notBefore = this.ways.now() + APART_MS;
    this.latest = { number, draft };
    this.waits = true;
    if (looks) this.looking = this.latest;
  }

  /** The draft, or if it has been refused, what was heard before it. */
  private possible(): DraftNow | undefined {
    const { draft, refused, heardOf } = this;
    if (draft?.commands !== refused) return draft;
    return draft && { ...draft, commands: heardOf?.commands ?? NOTHING };
  }

  /** Stretches that are about to be played, unless they are there. */
  private wanted(moved: boolean): Range[] {
    if (!this.report?.playing || !this.transport.treated) return [];
    const at = this.next(this.report);
    const near = this.held && at >= this.held[0] && at + NEAR_SECONDS * this.rate < this.held[1];
    return moved || !near ? comingUp(at, AHEAD_SECONDS, this.rate, this.transport.loop) : [];
  }

  /** The sample that is played next. */
  private next({ position, starving, when }: Report & { when: number }): number {
    // Where it waits for sound it waits for exactly that.
    if (starving) return Math.floor(position);
    const since = Math.min(this.ways.now() - when, FORGOTTEN_MS);
    return Math.floor(position + (since / 1000) * this.rate);
  }

  private hear({ draft }: Asked, { length, sound: parts }: Heard, sound: Float32Array) {
    // It is over: what has been committed is heard by itself.
    if (!this.draft) return;
    let at = 0;
    const slices = parts.map(({ start, samples }) => {
      const sides = [sound.slice(at, at + samples), sound.slice(at + samples, at + 2 * samples)];
      at += 2 * samples;
      return { start, sound: sides as Sound };
    });
    const [first] = slices;
    if (first) this.held = [first.start, first.start + first.sound[0].length];
    const { serial, commands } = draft;
    // Nothing has been done yet; where a hand has gone back to that, it is heard again.
    if (!commands.length && !this.heardOf) return;
    const fresh = commands !== this.heardOf?.commands || draft.revision !== this.heardOf.revision;
    this.heardOf = draft;
    const ranges = slices.map((s): Range => [s.start, s.start + s.sound[0].length]);
    this.ways.toPlayer({ type: 'draft', serial, fresh, length, slices });
    this.ways.toPage({ type: 'heard', serial, commands, fresh, length, ranges });
  }

  private see({ draft }: Asked, { revision, patch }: Heard, { derived, drawing }: Seen) {
    const { serial, drawing: of } = draft;
    this.ways.toPage({ type: 'seen', serial, revision, patch, derived, of, drawing });
  }
}
