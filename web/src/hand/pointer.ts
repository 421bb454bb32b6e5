/** Gestures of a pointer: from its going down to its going up, wherever it is then. */
import type { PointerEvent as ReactPointerEvent } from 'react';
import type { Command } from '../reel/session';
import { begin, type DrawnEffect } from './gesture';

type Moved = globalThis.PointerEvent;

interface Follow {
  moved: (m: Moved) => void;
  /** It has gone up. */
  up: (m: Moved) => void;
  /** It has been lost: as if it had never gone down. */
  lost: () => void;
}

/** Follow a pointer that has gone down; gives what ends that. */
export function follow(e: ReactPointerEvent<Element>, ways: Follow): () => void {
  // The page holds the pointer: what was taken hold of may be drawn elsewhere meanwhile.
  const page = window.document.documentElement;
  const move = (m: Event) => ways.moved(m as Moved);
  const up = (m: Event) => {
    leave();
    ways.up(m as Moved);
  };
  const lost = () => {
    leave();
    ways.lost();
  };
  const press = (k: KeyboardEvent) => {
    if (k.key !== 'Escape') return;
    k.preventDefault();
    k.stopPropagation();
    lost();
  };
  const leave = () => {
    page.removeEventListener('pointermove', move);
    page.removeEventListener('pointerup', up);
    page.removeEventListener('pointercancel', lost);
    page.removeEventListener('lostpointercapture', lost);
    window.removeEventListener('keydown', press, true);
    if (page.hasPointerCapture(e.pointerId)) page.releasePointerCapture(e.pointerId);
  };
  page.setPointerCapture(e.pointerId);
  page.addEventListener('pointermove', move);
  page.addEventListener('pointerup', up);
  page.addEventListener('pointercancel', lost);
  page.addEventListener('lostpointercapture', lost);
  window.addEventListener('keydown', press, true);
  return leave;
}

export interface Drag {
  /**
   * The pointer has moved: the edits that this stands for, none if nothing would change, or nothing
   * at all while it has not moved far enough to mean anything.
   */
  moved: (m: Moved) => readonly Command[] | undefined;
  /** It has been let go of without having meant anything: a click. */
  clicked?: ((up: Moved) => void) | undefined;
  /** It has been let go of, and what it meant is on its way. */
  dropped?: (() => void) | undefined;
  /** All is over: kept, or as it was before. */
  over: (kept: boolean) => void;
  drawing?: DrawnEffect | undefined;
}

/** Let a pointer that has gone down make a draft, and an edit when it goes up. */
export function drag(e: ReactPointerEvent<Element>, ways: Drag): void {
  let meant = false;
  const gesture = begin({
    drawing: ways.drawing,
    over: (kept) => {
      leave();
      ways.over(kept);
    },
  });
  const leave = follow(e, {
    moved: (m) => {
      const commands = ways.moved(m);
      if (!commands) return;
      meant = true;
      gesture.update(commands);
    },
    up: (m) => {
      if (!meant) {
        gesture.cancel();
        ways.clicked?.(m);
        return;
      }
      ways.dropped?.();
      void gesture.commit();
    },
    lost: () => gesture.cancel(),
  });
}
