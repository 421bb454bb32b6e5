/** What the player and its audio worklet tell each other. */

import type { Levels } from './meter';

export type Sound = [Float32Array, Float32Array];
/** The reel as it will be exported, or what it is compared with. */
export type Side = 'treated' | 'other';
/** Or what the one has that the other lacks. */
export type Heard = Side | 'difference';

export type ToWorklet =
  /** A second; one of a draft is not that of a render. */
  | { type: 'block'; side: Side; index: number; sound: Sound; exact: boolean }
  /** A stretch of whole parts of a second, at once; exact or worked out in a hurry. */
  | { type: 'slice'; side: Side; start: number; sound: Sound; exact: boolean }
  /** Which draft may be heard; 0 for none. */
  | { type: 'hand'; serial: number }
  /**
   * What a hand is doing, from here on; `fresh` if it has moved since, `late` if it is an edit
   * already and nothing of that has been heard.
   */
  | {
      type: 'draft';
      serial: number;
      fresh: boolean;
      late?: boolean;
      length: number;
      slices: { start: number; sound: Sound }[];
    }
  /** A block that is held is right as it is. */
  | { type: 'right'; side: Side; index: number; exact: boolean }
  /** Whatever is held of a side may be out of date. */
  | { type: 'doubt'; side: Side }
  | { type: 'drop'; side: Side; index: number }
  /** The jumps so far, with the one that comes next: whoever reads a report sees if it is older. */
  | { type: 'jump'; count: number }
  | { type: 'play'; from: number }
  | { type: 'pause' }
  | { type: 'seek'; to: number }
  | { type: 'side'; side: Heard }
  /** By what the other side is multiplied, so that both are equally loud. */
  | { type: 'match'; gain: number }
  | { type: 'loop'; start: number; end: number }
  | { type: 'noloop' }
  | { type: 'speed'; speed: number }
  | { type: 'scrub'; at: number }
  | { type: 'length'; samples: number }
  /** What has been measured so far is forgotten. */
  | { type: 'reset-meters' }
  /** Comes with a port from which all other messages come. */
  | { type: 'port' };

export interface Report {
  type: 'at';
  /** Sample of the reel at the context's frame `frame`. */
  position: number;
  frame: number;
  playing: boolean;
  starving: boolean;
  /** Largest value since the last report, left and right. */
  peaks: [number, number];
  ended: boolean;
  /** How many jumps it knows of. */
  jumps: number;
  /** What the meters say, ten times a second while it plays. */
  levels?: Levels;
  /** Samples of the reel at which full scale was passed since the last report. */
  overs?: number[];
}
