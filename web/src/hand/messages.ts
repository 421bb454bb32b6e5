/** What the page and the worker that asks tell each other. */
import type { Schemas } from '../api/client';
import type { Command, Derived, Sent } from '../reel/draft';
import type { Op } from '../reel/patch';

export type DrawingData = Schemas['DrawingData'];

/** An effect whose drawing follows the hand. */
export interface DrawnEffect {
  owner: string;
  effect: string;
}

/** First sample, and the first one after. */
export type Range = [number, number];

export interface DraftNow {
  /** Counts drafts; none while no hand is at work. */
  serial: number;
  commands: readonly Command[];
  /** Of the reel, on which it is made. */
  revision: number;
  drawing: DrawnEffect | undefined;
  /** The edit that it has been sent as. */
  sent?: string | undefined;
  /** Edits of this hand that were on their way when it began. */
  upon?: readonly Sent[] | undefined;
  /** Where the playhead is, for what is drawn. */
  at: number;
}

export interface Transport {
  loop: { start: number; end: number } | undefined;
  treated: boolean;
}

export type ToHand =
  | { type: 'call'; path: string; rate: number }
  /** No hand will come any more. */
  | { type: 'hang-up' }
  | ({ type: 'draft' } & DraftNow)
  /** Let go of: it is an edit now, or has been given up. */
  | { type: 'over'; kept: boolean };

export type FromHand =
  /** What is about to be played has been handed to the player. */
  | {
      type: 'heard';
      serial: number;
      commands: readonly Command[];
      upon?: readonly Sent[] | undefined;
      /** It is another state of the draft than the one before. */
      fresh: boolean;
      length: number;
      ranges: Range[];
    }
  | {
      type: 'seen';
      serial: number;
      revision: number;
      patch: Op[];
      derived: Derived | null;
      of: DrawnEffect | undefined;
      drawing: DrawingData | null;
    };
