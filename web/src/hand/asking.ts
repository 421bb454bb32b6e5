/**
 * Asks the server what the draft looks and sounds like, for as long as there is one.
 *
 * One question at a time, and always the newest: the one under way is never given up, so a hand that
 * does not rest is answered as often as a server can. What is about to be played is asked for again
 * when the playhead comes near the end of what is there.
 */
import { unstable_batchedUpdates } from 'react-dom';
import { create } from 'zustand';
import { csrfToken, type Schemas } from '../api/client';
import type { Slice } from '../player/blocks';
import { usePlayer, type Player } from '../player/player';
import type { Command, Derived } from '../reel/draft';
import type { Op } from '../reel/patch';
import { useSession } from '../reel/session';
import { framesOf, type Frame } from './frames';
import { useHand, type DrawnEffect } from './gesture';
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
const DOWN_MS = 500;

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

export class Asking {
  private underWay = false;
  private looking = false;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private notBefore = 0;
  private asked: readonly Command[] | undefined;
  private askedOf = -1;
  /** Where the sound that is there for the draft ends; elsewhere there is none. */
  private held: Range | undefined;
  private readonly leave: (() => void)[];

  constructor(
    private readonly reel: string,
    private readonly rate: number,
    private readonly player: Player,
  ) {
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
    for (const leave of this.leave) leave();
  }

  private ended(given: boolean) {
    this.asked = undefined;
    this.held = undefined;
    useDrawn.setState({ of: undefined, drawing: undefined });
    // What has become an edit is heard as one; what has been given up is not heard any longer.
    if (given) this.player.dropDraft();
  }

  /** Ask if there is something to ask. */
  private look() {
    clearTimeout(this.timer);
    if (this.underWay) return;
    const { draft, revision } = useSession.getState();
    const playing = usePlayer.getState().playing;
    // Before a hand has done anything there is nothing to see; while it plays, the server makes ready.
    if (!draft || (!draft.commands.length && !playing)) return;
    const { commands } = draft;
    const moved = commands !== this.asked || revision !== this.askedOf;
    const ranges = this.wanted(moved);
    if (!moved && !ranges.length) return;
    const wait = this.notBefore - performance.now();
    if (wait > 0) {
      this.timer = setTimeout(() => this.look(), wait);
      return;
    }
    this.underWay = true;
    this.notBefore = performance.now() + APART_MS;
    this.asked = commands;
    this.askedOf = revision;
    if (moved) this.player.makeWay();
    void this.ask(commands, ranges).then((fine) => {
      this.underWay = false;
      if (!fine) {
        this.asked = undefined;
        this.notBefore = performance.now() + DOWN_MS;
      }
      this.look();
    });
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

  /** Ask once; whether the server answered. */
  private async ask(commands: readonly Command[], sound: Range[]): Promise<boolean> {
    const { drawing } = useHand.getState();
    const looks = !this.looking;
    const at = Math.max(0, Math.round(usePlayer.getState().position));
    let answer: Response;
    try {
      answer = await fetch(`/api/reels/${this.reel}/draft`, {
        method: 'POST',
        cache: 'no-store',
        headers: { 'X-CSRFToken': csrfToken(), 'Content-Type': 'application/json' },
        body: JSON.stringify({
          commands,
          sound,
          ...(looks && { derived: true, drawing: drawing ? { ...drawing, at } : null }),
        }),
      });
    } catch {
      return false;
    }
    // What cannot be done is not shown; letting go of it says why.
    if (!answer.ok || !answer.body) return answer.status < 500;
    const frames = framesOf(answer.body);
    const first = await frames.next();
    if (first.done) return false;
    const heard = this.hear(commands, first.value);
    if (looks) {
      this.looking = true;
      void this.see(frames, heard, drawing).finally(() => (this.looking = false));
    }
    return true;
  }

  /** Hand on what is about to be played. */
  private hear(commands: readonly Command[], { said, sound }: Frame): Heard {
    const heard = said as Heard;
    const { length, sound: parts } = heard;
    // It is over: what has been committed is heard by itself.
    if (!useSession.getState().draft) return heard;
    let at = 0;
    const slices = parts.map(({ start, samples, exact }): Slice => {
      const sides = [sound.slice(at, at + samples), sound.slice(at + samples, at + 2 * samples)];
      at += 2 * samples;
      return { start, sound: sides as Slice['sound'], exact };
    });
    const [first] = slices;
    if (first) this.held = [first.start, first.start + first.sound[0].length];
    if (commands.length) this.player.takeDraft(commands, length, slices);
    return heard;
  }

  /** Show all that there is to see of a draft at once. */
  private async see(
    frames: AsyncGenerator<Frame>,
    { revision, patch }: Heard,
    of: DrawnEffect | undefined,
  ) {
    try {
      for await (const { said } of frames) {
        const { derived, drawing } = said as Seen;
        unstable_batchedUpdates(() => {
          useSession.getState().showDraft({ revision, patch }, derived ?? undefined);
          if (of && useHand.getState().drawing === of) useDrawn.setState({ of, drawing });
        });
      }
    } catch {
      // The next answer shows it.
    }
  }
}
