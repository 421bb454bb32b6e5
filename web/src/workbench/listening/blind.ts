/**
 * A blind comparison: which side is which is not shown, drawn anew after each answer, and told at
 * the end, with how likely such a count would be if one had only guessed.
 */
import { create } from 'zustand';
import { usePlayer, type Player } from '../../player/player';

export type Letter = 'A' | 'B';
type Answer = Letter | 'alike';

export interface Tally {
  treated: number;
  other: number;
  alike: number;
}

interface Blind {
  running: boolean;
  /** Which of them the treated side is. */
  treated: Letter;
  heard: Letter;
  count: Tally;
  /** What was found, once it has ended. */
  told: Tally | undefined;
}

const NOTHING: Tally = { treated: 0, other: 0, alike: 0 };

export const useBlind = create<Blind>()(() => ({
  running: false,
  treated: 'A',
  heard: 'A',
  count: NOTHING,
  told: undefined,
}));

const draw = (): Letter => (crypto.getRandomValues(new Uint8Array(1))[0]! % 2 ? 'A' : 'B');

export function begin(player: Player) {
  useBlind.setState({ running: true, count: NOTHING, told: undefined });
  next(player);
}

/** The sides are shuffled, and A is heard. */
function next(player: Player) {
  useBlind.setState({ treated: draw() });
  hear(player, 'A');
}

export function hear(player: Player, letter: Letter) {
  const { treated } = useBlind.getState();
  useBlind.setState({ heard: letter });
  player.setSide(letter === treated ? 'treated' : 'other');
}

export function answer(player: Player, given: Answer) {
  const { count, treated } = useBlind.getState();
  const key = given === 'alike' ? 'alike' : given === treated ? 'treated' : 'other';
  useBlind.setState({ count: { ...count, [key]: count[key] + 1 } });
  next(player);
}

/** Tell which was which. */
export function end(player: Player) {
  const { count } = useBlind.getState();
  useBlind.setState({ running: false, told: count });
  player.setSide('treated');
}

export function forget() {
  useBlind.setState({ told: undefined, running: false });
}

/**
 * Chance, 0 to 1, that guessing would prefer one side at least this often: the two-sided sign test,
 * 2·Σ C(n, k)/2ⁿ for k from the larger count on; answers without a preference do not count.
 */
export function byChance({ treated, other }: Tally): number {
  const n = treated + other;
  const most = Math.max(treated, other);
  let term = 1;
  let sum = 0;
  for (let k = 0; k <= n; k++) {
    if (k >= most) sum += term;
    term = (term * (n - k)) / (k + 1);
  }
  return Math.min(1, (2 * sum) / 2 ** n);
}

/** The compare key: the other side, or the other letter. */
export function flip(player: Player) {
  const { running, heard } = useBlind.getState();
  if (running) hear(player, heard === 'A' ? 'B' : 'A');
  else player.setSide(usePlayer.getState().side === 'treated' ? 'other' : 'treated');
}
