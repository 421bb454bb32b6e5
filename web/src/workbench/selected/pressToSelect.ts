/** Enter selects a part that has the focus; with Ctrl it is added to what is selected, or taken out. */
import type { KeyboardEvent } from 'react';
import { useSelection, withPart, type Part } from './selection';

/** @returns Whether that was the key. */
export function pressToSelect(e: KeyboardEvent, part: Part): boolean {
  if (e.key !== 'Enter' || e.shiftKey) return false;
  e.preventDefault();
  e.stopPropagation();
  const { selection, select } = useSelection.getState();
  select(e.ctrlKey || e.metaKey ? withPart(selection, part) : part);
  return true;
}
