/** A value that is turned, typed or nudged: one gesture until the hand has let go of it. */
import { useEffect, useRef, useState } from 'react';
import { useSession, type Command } from '../reel/session';
import { begin, type DrawnEffect, type Gesture } from './gesture';

/** Keys that follow one another sooner than this are one gesture. */
export const NUDGED_MS = 600;

/** What is done with a value whose turning is recorded as keyframes. */
export interface Recording {
  note: (value: number) => void;
  /** The edits that keep what has been recorded; none if the value is simply set. */
  kept: (value: number) => Command[] | undefined;
}

interface Turned {
  stored: number;
  /** It follows another value: to set it to what it is is a change. */
  unset?: boolean | undefined;
  drawing?: DrawnEffect | undefined;
  edits: (value: number) => readonly Command[];
  recording?: Recording;
}

export function useTurning({ stored, unset, drawing, edits, recording }: Turned) {
  const [turning, setTurning] = useState<number | undefined>();
  const gesture = useRef<Gesture | undefined>(undefined);
  const before = useRef(stored);
  const latest = useRef(stored);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  /** Given up with Escape: what the hand still does with it means nothing. */
  const givenUp = useRef(false);
  const refusals = useSession((s) => s.refusals);
  useEffect(() => {
    if (!gesture.current) setTurning(undefined);
  }, [stored, refusals]);
  useEffect(() => {
    const press = (e: KeyboardEvent) => {
      if (e.key !== 'Escape') givenUp.current = false;
    };
    const point = () => {
      givenUp.current = false;
    };
    window.addEventListener('keydown', press, true);
    window.addEventListener('pointerdown', point, true);
    return () => {
      window.removeEventListener('keydown', press, true);
      window.removeEventListener('pointerdown', point, true);
    };
  }, []);
  // What is taken away in the middle of it is let go of.
  useEffect(() => () => void gesture.current?.commit(), []);

  const turn = (value: number) => {
    clearTimeout(timer.current);
    if (givenUp.current) return;
    // The one before may still be being recorded: what it leaves is what there is.
    if (!gesture.current?.open) {
      const now = gesture.current ? latest.current : stored;
      if (value === now && !unset && !recording) return;
      before.current = now;
      const own = begin({
        drawing,
        over: (kept) => {
          // Another one has begun since.
          if (gesture.current !== own) return;
          clearTimeout(timer.current);
          givenUp.current = !kept;
          // Nor is anything kept that has been noted of it.
          if (!kept) recording?.kept(stored);
          gesture.current = undefined;
          setTurning(undefined);
        },
      });
      gesture.current = own;
    }
    latest.current = value;
    setTurning(value);
    recording?.note(value);
    gesture.current.update(edits(value));
  };
  const finish = (value: number) => {
    turn(value);
    const going = gesture.current;
    if (!going?.open) return;
    const kept = recording?.kept(value);
    if (kept) going.update(kept);
    if (!kept && value === before.current && !unset) going.cancel();
    else void going.commit();
  };
  /** The hand lets go: at once, or where it nudges, when no other key has followed for a moment. */
  const settle = (value: number, nudged: boolean) => {
    if (givenUp.current) return;
    if (!nudged) {
      finish(value);
      return;
    }
    turn(value);
    const going = gesture.current;
    timer.current = setTimeout(() => {
      if (going?.open) finish(value);
    }, NUDGED_MS);
  };
  const giveUp = () => gesture.current?.cancel();
  return { turning, turn, finish, settle, giveUp };
}
