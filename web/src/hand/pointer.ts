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

/** So far it has not gone anywhere: a click is one on what lies there, and so is a second one. */
const STILL_PX = 2;

/** Follow a pointer that has gone down; gives what ends that. */
export function follow(e: ReactPointerEvent<Element>, ways: Follow): () => void {
  // The page holds the pointer: what was taken hold of may be drawn elsewhere meanwhile.
  const page = window.document.documentElement;
  const { pointerId, clientX, clientY } = e;
  const own = (act: (m: Moved) => void) => (m: PointerEvent) => {
    if (m.pointerId === pointerId) act(m);
  };
  const move = own((m) => {
    const far = Math.hypot(m.clientX - clientX, m.clientY - clientY) > STILL_PX;
    if (far && !page.hasPointerCapture(pointerId)) page.setPointerCapture(pointerId);
    ways.moved(m);
  });
  const up = own((m) => {
    leave();
    ways.up(m);
  });
  const give = () => {
    leave();
    ways.lost();
  };
  const lost = own(give);
  const press = (k: KeyboardEvent) => {
    if (k.key !== 'Escape') return;
    k.preventDefault();
    k.stopPropagation();
    give();
  };
  const leave = () => {
    window.removeEventListener('pointermove', move);
    window.removeEventListener('pointerup', up);
    window.removeEventListener('pointercancel', lost);
    page.removeEventListener('lostpointercapture', lost);
    window.removeEventListener('keydown', press, true);
    if (page.hasPointerCapture(pointerId)) page.releasePointerCapture(pointerId);
  };
  window.addEventListener('pointermove', move);
  window.addEventListener('pointerup', up);
  window.addEventListener('pointercancel', lost);
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
