/**
 * Asks the server what the draft looks and sounds like, for as long as there is one.
 *
 * One question at a time, and always the newest: the one under way is never given up, so a hand that
 * does not rest is answered as often as a server can. What is about to be played is asked for again
 * when the playhead comes near the end of what is there.
 */
import { unstable_batchedUpdates } from 'react-dom';
import { create } from 'zustand';
import type { Schemas } from '../api/client';
import type { Slice } from '../player/blocks';
import { usePlayer, type Player } from '../player/player';
import type { Command, Derived } from '../reel/draft';
import type { Op } from '../reel/patch';
import { useSession } from '../reel/session';
import { useHand, type DrawnEffect } from './gesture';
import { Line, type Frame } from './line';
import { comingUp, type Range } from './ranges';

type DrawingData = Schemas['DrawingData'];

/** The drawing of the effect that the hand is on. */
export const useDrawn = create<{
  of: DrawnEffect | undefined;
  drawing: DrawingData | null | undefined;
}>()(() => ({ of: undefined, drawing: undefined }));

/** From one question to the next, at least. */
const APART_MS = 40;
/** Sound is asked for so far ahead, and again when less than this is there. */
const AHEAD_SECONDS = 0.35;
const NEAR_SECONDS = 0.2;

interface Heard {
  revision: number;
  patch: Op[];
  length: number;
  sound: { start: number; samples: number; exact: boolean }[];
}

interface Seen {
  derived: Derived | null;
  drawing: DrawingData | null;
}

/** A question that is under way. */
interface Asked {
  number: number;
  commands: readonly Command[];
  revision: number;
  /** Its answer has a second part, to be seen, of this effect among others. */
  looks: boolean;
  drawing: DrawnEffect | undefined;
  heard?: Heard;
}

export class Asking {
  private readonly line: Line;
  private count = 0;
  /** The newest question; while `waits`, its first answer has not come. */
  private latest: Asked | undefined;
  private waits = false;
  /** The question whose second answer has not come. */
  private looking: Asked | undefined;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private notBefore = 0;
  /** Where the sound that is there for the draft ends; elsewhere there is none. */
  private held: Range | undefined;
  private readonly leave: (() => void)[];

  constructor(
    reel: string,
    private readonly rate: number,
    private readonly player: Player,
  ) {
    this.line = new Line(
      `/api/reels/${reel}/hand`,
      (frame) => this.take(frame),
      () => this.again(),
    );
    this.leave = [
      useSession.subscribe((now, before) => {
        if (now.draft?.commands !== before.draft?.commands || now.revision !== before.revision)
          this.look();
        if (before.draft && !now.draft) this.ended(now.revision === before.revision);
      }),
      usePlayer.subscribe((now, before) => {
        if (now.position !== before.position || now.playing !== before.playing) this.look();
      }),
    ];
  }

  close() {
    clearTimeout(this.timer);
    this.line.close();
    for (const leave of this.leave) leave();
  }

  /** The line is new: nothing that was asked over another one is answered. */
  private again() {
    this.latest = undefined;
    this.looking = undefined;
    this.waits = false;
    this.look();
  }

  private ended(given: boolean) {
    this.latest = undefined;
    this.waits = false;
    this.held = undefined;
    useDrawn.setState({ of: undefined, drawing: undefined });
    // What has become an edit is heard as one; what has been given up is not heard any longer.
    if (given) this.player.dropDraft();
  }

  /** Ask if there is something to ask. */
  private look() {
    clearTimeout(this.timer);
    const { draft, revision } = useSession.getState();
    const { playing } = usePlayer.getState();
    // Before a hand has done anything there is nothing to see; while it plays, the server makes ready.
    if (this.waits || !draft || (!draft.commands.length && !playing)) return;
    const { commands } = draft;
    const moved = commands !== this.latest?.commands || revision !== this.latest.revision;
    const sound = this.wanted(moved);
    if (!moved && !sound.length) return;
    const wait = this.notBefore - performance.now();
    if (wait > 0) {
      this.timer = setTimeout(() => this.look(), wait);
      return;
    }
    const { drawing } = useHand.getState();
    const looks = !this.looking;
    const number = ++this.count;
    const at = Math.max(0, Math.round(usePlayer.getState().position));
    const shown = looks && { derived: true, drawing: drawing ? { ...drawing, at } : null };
    if (!this.line.ask({ number, commands, sound, ...shown })) return;
    this.notBefore = performance.now() + APART_MS;
    this.latest = { number, commands, revision, looks, drawing };
    this.waits = true;
    if (looks) this.looking = this.latest;
    if (moved) this.player.makeWay();
  }

  /** Stretches that are about to be played, unless they are there. */
  private wanted(moved: boolean): Range[] {
    const { playing, loop, side } = usePlayer.getState();
    if (!playing || side !== 'treated') return [];
    const at = this.player.next();
    const near = this.held && at >= this.held[0] && at + NEAR_SECONDS * this.rate < this.held[1];
    if (!moved && near) return [];
    const ranges = comingUp(at, AHEAD_SECONDS, this.rate, loop);
    // What has come whole meanwhile is better than what would come at once.
    return moved || !ranges.every((range) => this.player.hasDraft(range)) ? ranges : [];
  }

  private take(frame: Frame) {
    const { said } = frame;
    const { latest, looking } = this;
    if ('patch' in said && said.number === latest?.number) {
      this.waits = false;
      latest.heard = said as unknown as Heard;
      this.hear(latest, frame.sound);
      this.look();
    } else if ('drawing' in said && looking && said.number === looking.number) {
      this.looking = undefined;
      this.see(looking, said as unknown as Seen);
    } else if ('refused' in said) {
      // What cannot be done is not shown; letting go of it says why.
      this.waits = false;
      this.looking = undefined;
      this.look();
    }
  }

  /** Hand on what is about to be played. */
  private hear({ commands, heard }: Asked, sound: Float32Array) {
    // It is over: what has been committed is heard by itself.
    if (!useSession.getState().draft || !heard) return;
    let at = 0;
    const slices = heard.sound.map(({ start, samples, exact }): Slice => {
      const sides = [sound.slice(at, at + samples), sound.slice(at + samples, at + 2 * samples)];
      at += 2 * samples;
      return { start, sound: sides as Slice['sound'], exact };
    });
    const [first] = slices;
    if (first) this.held = [first.start, first.start + first.sound[0].length];
    if (commands.length) this.player.takeDraft(commands, heard.length, slices);
  }

  /** Show all that there is to see of a draft at once. */
  private see({ heard, drawing: of }: Asked, { derived, drawing }: Seen) {
    if (!heard) return;
    const { revision, patch } = heard;
    unstable_batchedUpdates(() => {
      useSession.getState().showDraft({ revision, patch }, derived ?? undefined);
      if (of && useHand.getState().drawing === of) useDrawn.setState({ of, drawing });
    });
  }
}
