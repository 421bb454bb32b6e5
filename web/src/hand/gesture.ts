/**
 * A gesture of the hand: begin → update → commit | cancel.
 *
 * What it does is a draft, kept in the session: seen and heard while it is made. It becomes one edit
 * when it is let go of; Escape, a pointer that is lost and a refusal bring back what was.
 */
import { create } from 'zustand';
import { usePlayer } from '../player/player';
import { listOf, sameCommands } from '../reel/draft';
import { useSession, type Command } from '../reel/session';
import type { DrawnEffect } from './messages';

export type { DrawnEffect } from './messages';

interface Ways {
  drawing?: DrawnEffect | undefined;
  /** The hand has let go: what it showed by itself is let go of as well. */
  over?: (kept: boolean) => void;
}

export interface Gesture {
  /** Neither let go of nor given up: what the hand does next is still its own. */
  readonly open: boolean;
  /** What the hand does now stands for these edits; none if nothing would change. */
  update: (commands: readonly Command[]) => void;
  /** Let go: what was updated last becomes one edit. Whether it was accepted. */
  commit: () => Promise<boolean>;
  /** As if nothing had been done. */
  cancel: () => void;
}

interface HandState {
  active: Gesture | undefined;
  drawing: DrawnEffect | undefined;
}

/** What a hand that has done nothing yet stands for. */
const NOTHING: readonly Command[] = [];

/** All who say that something may be done soon. */
const expecting = new Set<symbol>();

export const useHand = create<HandState>()(() => ({ active: undefined, drawing: undefined }));

/** Begin a gesture; one that is under way is let go of first. */
export function begin({ drawing, over }: Ways = {}): Gesture {
  void useHand.getState().active?.commit();
  let latest = NOTHING;
  let open = true;
  const end = () => {
    open = false;
    if (useHand.getState().active !== gesture) return;
    useHand.setState({ active: undefined, drawing: undefined });
    useSession.setState({ settle: undefined });
  };
  const gesture: Gesture = {
    get open() {
      return open;
    },
    update: (commands) => {
      if (!open || sameCommands(commands, latest)) return;
      latest = commands;
      useSession.getState().setDraft(commands);
    },
    commit: async () => {
      if (!open) return false;
      end();
      const kept = await useSession.getState().keepDraft();
      over?.(kept);
      return kept;
    },
    cancel: () => {
      if (!open) return;
      end();
      useSession.getState().setDraft(undefined);
      over?.(false);
    },
  };
  useHand.setState({ active: gesture, drawing });
  useSession.setState({ settle: () => void gesture.commit() });
  // The server may make ready for what is coming before the hand has moved. Of what has just been
  // let go of it is known, and that is heard until the hand does something.
  if (!useSession.getState().draft) useSession.getState().setDraft(latest);
  return gesture;
}

/**
 * Something may be done soon, as where a value is being typed: while the reel plays the server makes
 * ready for it. Gives what says that it is no longer expected.
 */
export function makeReady(): () => void {
  const { draft, setDraft } = useSession.getState();
  const one = Symbol();
  expecting.add(one);
  if (!draft) setDraft(NOTHING);
  return () => {
    if (!expecting.delete(one) || expecting.size) return;
    // A gesture that has begun meanwhile has taken it over.
    const expected = useSession.getState().draft?.commands === NOTHING;
    if (expected && !useHand.getState().active) setDraft(undefined);
  };
}

/** What is done with one press; while the reel plays it is heard before it is recorded. */
export function atOnce(commands: Command | readonly Command[]): Promise<boolean> {
  if (!usePlayer.getState().playing) return useSession.getState().edit(commands);
  const gesture = begin();
  gesture.update(listOf(commands));
  return gesture.commit();
}

/** Escape while a hand is at work: back to what was. */
export function cancelOnEscape(): () => void {
  const press = (e: KeyboardEvent) => {
    const { active } = useHand.getState();
    if (e.key !== 'Escape' || !active) return;
    active.cancel();
    e.preventDefault();
    e.stopPropagation();
  };
  window.addEventListener('keydown', press, true);
  return () => window.removeEventListener('keydown', press, true);
}
