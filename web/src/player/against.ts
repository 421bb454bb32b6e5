/** What the reel is compared with: another state of it, and what that is called. */
import type { Command } from '../reel/draft';

/** A state of the reel, as the server takes it. */
export interface State {
  /** Edits that are heard and never made. */
  commands?: readonly Command[];
  /** False without all treatments. */
  treated?: boolean;
  /** The reel as it was then. */
  revision?: number;
}

export interface Against {
  /** What it is called on the switch. */
  label: string;
  state: State;
  /** The part that it is about: `all`, `treatment:f1`, `clip:c1`, `effect:treatment:f1/e1`. */
  of: string;
  /** It is a part of the reel and not another way it could be: its level is left as it is. */
  plain?: boolean;
}

export const UNTREATED: State = { treated: false };
export const WITHOUT_ALL: Against = { label: 'Untreated', state: UNTREATED, of: 'all' };
