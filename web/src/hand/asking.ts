/**
 * Asks the server what the draft looks and sounds like, for as long as there is one.
 *
 * One question at a time, and always the newest: one that brings what a hand has done is never given
 * up, so a hand that does not rest is answered as often as a server can. One that brings only more of
 * what is there is given up when the hand moves on. What is about to be played is asked for again
 * when the playhead comes near the end of what is there. Sound goes straight to the player.
 */
import type { Report, ToWorklet } from '../player/messages';
import type { Derived } from '../reel/draft';
import type { Op } from '../reel/patch';
import type { Frame } from './line';
import type { DraftNow, DrawingData, FromHand, Range, Transport } from './messages';
import { slicesOf, type Slice } from './ranges';
import { Stock } from './stock';

/** From one question to the next, at least. */
const APART_MS = 40;
/** What comes late brings more: so many times what the newest answer took, at least. */
const LATE_TIMES = 2;
/** An answer that takes longer is late. */
const LATE_MS = 100;
/** A hand that has done nothing for so long has taken hold of something: the server makes ready. */
const HELD_MS = 30;

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
  /** The sound that was asked for. */
  wanted: Range[];
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
  private count = 0;
  /** The newest question; while `waits`, its first answer has not come. */
  private latest: Asked | undefined;
  private waits = false;
  /** The question that was under way when its draft became an edit, and whether it has been heard. */
  private kept: { asked: Asked; known: boolean } | undefined;
  /** The question whose second answer has not come. */
  private looking: Asked | undefined;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private notBefore = 0;
  /** When the draft began. */
  private heldAt = 0;
  private askedAt = 0;
  /** Milliseconds after which the newest answer came. */
  private took = 0;
  /** What has been asked to be seen last. */
  private looked: DraftNow['commands'] | undefined;
  /** From when on it may be asked what there is to see. */
  private lookFrom = 0;
  private readonly stock: Stock;
  /** The draft as it was when it was last heard. */
  private heardOf: DraftNow | undefined;
  /** What was refused: what was heard last goes on to be heard. */
  private refused: DraftNow['commands'] | undefined;

  constructor(
    rate: number,
    private readonly ways: Ways,
  ) {
    this.stock = new Stock(rate, ways.now);
  }

  /** @param kept It has become an edit: what is on its way of it is still right. */
  setDraft(draft: DraftNow | undefined, kept = false) {
    if (draft && !this.draft) this.heldAt = this.ways.now();
    const { latest, heardOf } = this;
    const known = latest?.draft.commands === heardOf?.commands;
    this.kept = kept && this.waits && latest ? { asked: latest, known } : undefined;
    this.draft = draft;
    if (!draft) {
      this.latest = undefined;
      this.waits = false;
      this.stock.forget();
      this.heardOf = undefined;
      this.refused = undefined;
    }
    this.look();
  }

  setTransport(transport: Transport) {
    const before = this.transport;
    this.transport = transport;
    const { loop, treated } = transport;
    const same = loop?.start === before.loop?.start && loop?.end === before.loop?.end;
    if (same && treated === before.treated) return;
    // In or out of a loop something else is played next.
    this.stock.forget();
    this.look();
  }

  /** The player says where it is. */
  setReport(report: Report) {
    this.stock.setReport(report);
    this.look();
  }

  /** The line is new: nothing that was asked over another one is answered. */
  again() {
    this.latest = undefined;
    this.looking = undefined;
    this.looked = undefined;
    this.kept = undefined;
    this.waits = false;
    this.look();
  }

  take({ said, sound }: Frame) {
    const { kept, latest, looking } = this;
    if ('patch' in said && kept && said.number === kept.asked.number) {
      this.kept = undefined;
      this.hearKept(kept.asked, said as unknown as Heard, sound, kept.known);
    } else if ('patch' in said && said.number === latest?.number) {
      this.waits = false;
      // While it plays, one without sound says nothing of how long sound takes.
      if (latest.wanted.length > 0 || !this.stock.playing)
        this.took = this.ways.now() - this.askedAt;
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
      // It has been answered: there is nothing to see.
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
    if (!draft || (!draft.commands.length && !this.stock.playing)) return;
    const before = latest?.draft;
    const moved = draft.commands !== before?.commands || draft.revision !== before.revision;
    const instead = this.waits && moved && this.bringsNothingNew() ? latest?.number : undefined;
    if (this.waits && instead === undefined) return;
    const sound = this.wanted(moved);
    // What was asked for while something else was being drawn has only been heard.
    const unseen = !this.looking && draft.commands.length > 0 && draft.commands !== this.looked;
    const only = unseen && !moved && !sound.length;
    if (!moved && !sound.length && !unseen) return;
    // What is typed or nudged is all there is to ask.
    const from = draft.commands.length ? this.notBefore : this.heldAt + HELD_MS;
    const wait = Math.max(from, this.notBefore, only ? this.lookFrom : 0) - this.ways.now();
    if (wait > 0) {
      this.timer = setTimeout(() => this.look(), wait);
      return;
    }
    if (instead && this.looking === latest) [this.looking, this.looked] = [undefined, undefined];
    const number = ++this.count;
    const { commands, revision, drawing, at } = draft;
    const looks = !this.looking && this.ways.now() >= this.lookFrom;
    const shown = looks && { derived: true, drawing: drawing ? { ...drawing, at } : null };
    const { sent: edit_id, upon } = draft;
    const about = { commands, revision, ...(edit_id && { edit_id }), ...(upon && { upon }) };
    if (!this.ways.ask({ number, sound, ...about, ...shown, ...(instead && { instead }) })) return;
    if (instead) this.stock.gaveUp();
    this.stock.asked(sound);
    this.askedAt = this.ways.now();
    // What only looks is answered at once: a hand that moves meanwhile does not wait for it.
    if (!only) this.notBefore = this.askedAt + APART_MS;
    this.latest = { number, draft, wanted: sound };
    this.waits = true;
    if (!looks) return;
    this.looking = this.latest;
    this.looked = commands;
    // While answers are late, what there is to see makes way for what there is to hear.
    const late = this.took > LATE_MS ? LATE_TIMES * this.took : 0;
    this.lookFrom = this.askedAt + late;
  }

  /** Whether what is under way brings only more of what is there, which can wait. */
  private bringsNothingNew(): boolean {
    const { latest, heardOf, draft } = this;
    if (!latest?.wanted.length || latest.draft.sent || draft?.sent) return false;
    // What is there must last until there is an answer of the other kind.
    const lasts = this.stock.lasts(Math.max(LATE_MS, this.took) / 1000);
    // Before anything has been done the player has all it needs.
    const untouched = !latest.draft.commands.length && !heardOf;
    return untouched || (lasts && latest.draft.commands === heardOf?.commands);
  }

  /** The draft, or if it has been refused, what was heard before it. */
  private possible(): DraftNow | undefined {
    const { draft, refused, heardOf } = this;
    if (draft?.commands !== refused) return draft;
    return draft && { ...draft, commands: heardOf?.commands ?? NOTHING };
  }

  private wanted(moved: boolean): Range[] {
    const { loop, treated } = this.transport;
    const least = (LATE_TIMES * this.took) / 1000;
    return treated ? this.stock.wanted(moved, this.heardOf !== undefined, least, loop) : [];
  }

  /** What goes on is there until the edit's own sound has come. */
  private hearKept({ draft, wanted }: Asked, heard: Heard, sound: Float32Array, known: boolean) {
    if (twice(draft, heard)) return;
    this.hand(draft, heard.length, slicesOf(wanted, heard.sound, sound), false, !known);
  }

  private hear({ draft, wanted }: Asked, heard: Heard, sound: Float32Array) {
    // It is over: what has been committed is heard by itself.
    if (!this.draft || (this.draft.sent && twice(draft, heard))) return;
    const { length, sound: parts } = heard;
    const slices = slicesOf(wanted, parts, sound);
    const [first] = slices;
    const samples = slices.reduce((n, s) => n + s.sound[0].length, 0);
    if (first) this.stock.came(first.start, samples);
    const { commands } = draft;
    // Nothing has been done yet: it is the sound as it was, which may have been missing. Where a
    // hand has gone back to that, it is heard again.
    const untouched = !commands.length && !this.heardOf;
    const before = this.heardOf;
    const fresh =
      !untouched && (commands !== before?.commands || draft.revision !== before.revision);
    if (!untouched) this.heardOf = draft;
    this.hand(draft, length, slices, fresh);
  }

  private hand(
    { serial, commands, upon }: DraftNow,
    length: number,
    slices: Slice[],
    fresh: boolean,
    late = false,
  ) {
    const ranges = slices.map((s): Range => [s.start, s.start + s.sound[0].length]);
    this.ways.toPlayer({ type: 'draft', serial, fresh, ...(late && { late }), length, slices });
    this.ways.toPage({ type: 'heard', serial, commands, upon, fresh, length, ranges });
  }

  private see({ draft }: Asked, { revision, patch }: Heard, { derived, drawing }: Seen) {
    const { serial, drawing: of } = draft;
    this.ways.toPage({ type: 'seen', serial, revision, patch, derived, of, drawing });
  }
}

/** Whether a draft that was asked for without its edit's id may have been an edit by then. */
function twice(draft: DraftNow, heard: Heard): boolean {
  return !draft.sent && heard.revision !== draft.revision;
}
