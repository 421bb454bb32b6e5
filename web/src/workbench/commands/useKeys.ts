/** Keys that work everywhere in the workbench, unless something is being typed. */
import { useEffect } from 'react';
import { chordOf } from './chord';
import { commandOfChord, useKeyMap } from './keyMap';
import type { Commands } from './useCommands';

/** What handles its own keys; the arrow keys of a slider are its own. */
function isTyping(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement &&
    (target.isContentEditable ||
      ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName) ||
      target.closest(
        '[role=slider], [role=dialog], [role=menu], [role=listbox], .reorder-handle',
      ) !== null)
  );
}

export function useKeys(commands: Commands) {
  useEffect(() => {
    const down = (e: KeyboardEvent) => {
      if (e.defaultPrevented || isTyping(e.target)) return;
      const chord = chordOf(e);
      const id = chord && commandOfChord(useKeyMap.getState().changed, chord);
      if (!id) return;
      // Enter presses the button that has the focus.
      if (chord === 'Enter' && e.target instanceof HTMLButtonElement) return;
      // So would the space bar, besides what it does here.
      if (chord === 'Space' && e.target instanceof HTMLElement) e.target.blur();
      if (commands[id]() !== false) e.preventDefault();
    };
    window.addEventListener('keydown', down);
    return () => window.removeEventListener('keydown', down);
  }, [commands]);
}
