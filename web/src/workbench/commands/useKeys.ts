/** Keys that work everywhere in the workbench, unless something is being typed. */
import { useEffect, useRef } from 'react';
import { chordOf } from '../keys/chord';
import { commandOfChord, useKeyMap } from '../keys/keyMap';
import type { Commands } from './useCommands';

/** A key that is down for so long is being held, not pressed. */
const HELD_MS = 400;
const SWITCHES = ['checkbox', 'radio', 'file', 'button'];
const OWN_KEYS = '[role=slider], [role=dialog], [role=menu], [role=listbox], .reorder-handle';
const OVER = '[role=dialog], [role=menu]';
const PRESSED_BY_SPACE = 'button, summary, input, select';

/** A field in which letters mean themselves. */
function isTyping(target: EventTarget | null): boolean {
  if (!(target instanceof HTMLElement)) return false;
  if (target instanceof HTMLInputElement) return !SWITCHES.includes(target.type);
  return target.isContentEditable || ['TEXTAREA', 'SELECT'].includes(target.tagName);
}

/** What handles its own keys; the arrow keys of a slider are its own. */
function hasOwnKeys(target: EventTarget | null): boolean {
  return target instanceof HTMLElement && target.closest(OWN_KEYS) !== null;
}

/**
 * Whether Space presses what has the focus: only if it was reached by keys. What was clicked before
 * is not pressed again by whoever wants to play. (Of `:focus-visible` a browser changes its mind as
 * soon as any key is pressed.)
 */
let reachedByKeys = false;

function isPressed(target: EventTarget | null): boolean {
  return target instanceof HTMLElement && target.matches(PRESSED_BY_SPACE) && reachedByKeys;
}

/** Keep in mind how the focus has come to where it is; gives what ends that. */
function watchFocus(): () => void {
  let byPointer = false;
  const point = () => {
    byPointer = true;
    reachedByKeys = false;
  };
  const press = () => {
    byPointer = false;
  };
  const focused = () => {
    if (!byPointer) reachedByKeys = true;
  };
  window.addEventListener('pointerdown', point, true);
  window.addEventListener('keydown', press, true);
  window.addEventListener('focusin', focused, true);
  return () => {
    window.removeEventListener('pointerdown', point, true);
    window.removeEventListener('keydown', press, true);
    window.removeEventListener('focusin', focused, true);
  };
}

export function useKeys(commands: Commands) {
  // A key that is held down outlives the commands that it was pressed for.
  const held = useRef<{ code: string; since: number } | undefined>(undefined);
  useEffect(watchFocus, []);
  useEffect(() => {
    // Escape closes what is open over the page, and nothing besides: by the time it comes here that
    // may be gone.
    let over = false;
    const first = (e: KeyboardEvent) => {
      over = e.key === 'Escape' && document.querySelector(OVER) !== null;
    };
    const down = (e: KeyboardEvent) => {
      if (e.defaultPrevented || over || isTyping(e.target)) return;
      const chord = chordOf(e);
      const inList =
        e.target instanceof HTMLElement && e.target.closest('[role=dialog], [role=menu]');
      const plays = chord === 'Space' && !inList && !isPressed(e.target);
      if (hasOwnKeys(e.target) && !plays) return;
      const id = chord && commandOfChord(useKeyMap.getState().changed, chord);
      if (!id) return;
      if (chord === 'Space' && !plays) return;
      // Enter presses the button that has the focus.
      if (chord === 'Enter' && e.target instanceof HTMLButtonElement) return;
      // The arrow keys of a choice that was reached by keys are its own.
      if (e.target instanceof HTMLInputElement && isPressed(e.target)) return;
      if (e.repeat && id === 'side') {
        // Held, it flips once, and back when it is let go.
        e.preventDefault();
        return;
      }
      if (commands[id]() !== false) e.preventDefault();
      if (id === 'side') held.current = { code: e.code, since: e.timeStamp };
    };
    // A button is pressed when the key goes up: what plays presses nothing.
    const up = (e: KeyboardEvent) => {
      if (held.current?.code === e.code) {
        if (e.timeStamp - held.current.since > HELD_MS) commands.side();
        held.current = undefined;
      }
      if (e.key === ' ' && !isTyping(e.target) && !isPressed(e.target)) e.preventDefault();
    };
    window.addEventListener('keydown', first, true);
    window.addEventListener('keydown', down);
    window.addEventListener('keyup', up);
    return () => {
      window.removeEventListener('keydown', first, true);
      window.removeEventListener('keydown', down);
      window.removeEventListener('keyup', up);
    };
  }, [commands]);
}
