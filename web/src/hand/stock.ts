/**
 * What sound of a draft is there to be played, and what is wanted next.
 *
 * A little of what is newest, so that a step of the hand is heard soon; and a reserve behind it, now
 * and then, which is played on, out of date as it is, when an answer is late.
 */
import type { Report } from '../player/messages';
import type { Range, Transport } from './messages';
import { comingUp } from './ranges';

/** Sound is asked for so far ahead, and again when less than this is there. */
const AHEAD_SECONDS = 0.3;
const NEAR_SECONDS = 0.2;
/** Now and then so far. */
const RESERVE_SECONDS = 0.8;
/** So much of it is always there while the hand rests. */
const LEAST_RESERVE_SECONDS = 0.5;
/** A hand that moves waits for no more than is needed, until only this is left. */
const LAST_RESERVE_SECONDS = 0.35;
/** The player tells where it is more often than that. */
const FORGOTTEN_MS = 100;

export class Stock {
  private report: (Report & { when: number }) | undefined;
  /** What came last, on as if a loop did not end, and the last of it that was a reserve. */
  private held: Range | undefined;
  private reserve: Range | undefined;
  /** From when on the reserve is to be asked for anew. */
  private reserveFrom = 0;

  constructor(
    private readonly rate: number,
    private readonly now: () => number,
  ) {}

  get playing(): boolean {
    return this.report?.playing ?? false;
  }

  /** The player says where it is. */
  setReport(report: Report) {
    this.report = { ...report, when: this.now() };
  }

  /** What is there is of no use any more. */
  forget() {
    this.held = undefined;
    this.reserve = undefined;
  }

  /** So many samples have come, from one on. */
  came(start: number, samples: number) {
    this.held = [start, start + samples];
    if (this.isReserve(samples)) this.reserve = this.held;
  }

  /** These have been asked for. */
  asked(ranges: Range[]) {
    const samples = ranges.reduce((n, [start, stop]) => n + stop - start, 0);
    if (this.isReserve(samples))
      this.reserveFrom = this.now() + 1000 * (RESERVE_SECONDS - LEAST_RESERVE_SECONDS);
  }

  /** What has been asked for will not come. */
  gaveUp() {
    this.reserveFrom = 0;
  }

  /** Whether what came last is played on for so long. */
  lasts(seconds: number): boolean {
    return this.has(seconds, this.held);
  }

  /**
   * Stretches that are about to be played, unless they are there.
   *
   * @param moved The hand has done something since what was asked for last.
   * @param heard What it does has been heard: before that the player has all it needs.
   * @param least Seconds, where a step needs more than is asked for as a rule.
   */
  wanted(moved: boolean, heard: boolean, least: number, loop: Transport['loop']): Range[] {
    if (!this.report?.playing) return [];
    const at = this.next(this.report);
    const [from, until] = this.held ?? [0, 0];
    const there = !this.report.starving && at >= from && at < until;
    const goesOn = heard && there;
    // The reserve is not asked for on every occasion: a hand that is about to move would wait for it.
    const due = this.now() >= this.reserveFrom;
    const near = (goesOn && due ? LEAST_RESERVE_SECONDS : NEAR_SECONDS) * this.rate;
    // A short loop is all there is to have.
    const enough = Math.min(near, (2 / 3) * (until - from));
    if (!moved && there && at + enough < until) return [];
    // A step of the hand is the sooner heard the less has to come with it.
    const reserve = !moved || (due && !this.has(LAST_RESERVE_SECONDS, this.reserve));
    const some = Math.min(RESERVE_SECONDS, Math.max(AHEAD_SECONDS, least));
    return comingUp(at, reserve && goesOn ? RESERVE_SECONDS : some, this.rate, loop);
  }

  private isReserve(samples: number): boolean {
    return samples > LEAST_RESERVE_SECONDS * this.rate;
  }

  private has(seconds: number, range: Range | undefined): boolean {
    if (!this.report || !range || this.report.starving) return false;
    const at = this.next(this.report);
    return at >= range[0] && at + seconds * this.rate < range[1];
  }

  /** The sample that is played next. */
  private next({ position, starving, when }: Report & { when: number }): number {
    // Where it waits for sound it waits for exactly that.
    if (starving) return Math.floor(position);
    const since = Math.min(this.now() - when, FORGOTTEN_MS);
    return Math.floor(position + (since / 1000) * this.rate);
  }
}
