/**
 * A gesture of the hand: begin → update → commit | cancel.
 *
 * What it does is a draft, kept in the session: seen and heard while it is made. It becomes one edit
 * when it is let go of; Escape, a pointer that is lost and a refusal bring back what was.
 */
import { create } from 'zustand';
import { useSession, type Command } from '../reel/session';
import type { DrawnEffect } from './messages';

export type { DrawnEffect } from './messages';

interface Ways {
  drawing?: DrawnEffect | undefined;
  /** The hand has let go: what it showed by itself is let go of as well. */
  over?: (kept: boolean) => void;
}

export interface Gesture {
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

export const useHand = create<HandState>()(() => ({ active: undefined, drawing: undefined }));

/** Begin a gesture; one that is under way is let go of first. */
export function begin({ drawing, over }: Ways = {}): Gesture {
  void useHand.getState().active?.commit();
  let latest: readonly Command[] = [];
  let open = true;
  const end = () => {
    open = false;
    if (useHand.getState().active !== gesture) return;
    useHand.setState({ active: undefined, drawing: undefined });
    useSession.setState({ settle: undefined });
  };
  const gesture: Gesture = {
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
  // The server may make ready for what is coming before the hand has moved.
  useSession.getState().setDraft(latest);
  return gesture;
}

/** What is done with one press, and heard as soon as what is dragged. */
export function atOnce(commands: readonly Command[]): Promise<boolean> {
  const gesture = begin();
  gesture.update(commands);
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

function sameCommands(a: readonly Command[], b: readonly Command[]): boolean {
  return a === b || JSON.stringify(a) === JSON.stringify(b);
}
