/** What is selected, and the range that has been dragged. */
import { create } from 'zustand';
import type { Key } from './lanes/keys';

export type Selection =
  | { kind: 'none' }
  | { kind: 'treatment'; id: string }
  /** `also` are further clips that are moved, split or removed with it. */
  | { kind: 'clip'; id: string; also?: string[] }
  | { kind: 'track'; id: string }
  | { kind: 'mix' }
  | { kind: 'keys'; keys: Key[] }
  /** A lane as a table of its keyframes. */
  | { kind: 'lane'; lane: string }
  | { kind: 'range'; track: string; start: number; end: number };

interface Selected {
  selection: Selection;
  /** Effect whose card is open in the sheet. */
  openEffect: string | undefined;
  select: (selection: Selection) => void;
  openCard: (id: string | undefined) => void;
}

export const useSelection = create<Selected>()((set) => ({
  selection: { kind: 'none' },
  openEffect: undefined,
  select: (selection) => set({ selection, openEffect: undefined }),
  openCard: (openEffect) => set({ openEffect }),
}));

/** The stretch that has been dragged on a track, if it is what is selected. */
export function draggedOn(selection: Selection, track: string) {
  if (selection.kind !== 'range') return undefined;
  return selection.track === track ? selection : undefined;
}

/** All clips that are selected. */
export function clipsOf(selection: Selection): string[] {
  return selection.kind === 'clip' ? [selection.id, ...(selection.also ?? [])] : [];
}

/** The selection with a clip added, or taken out if it was in. */
export function withClip(selection: Selection, id: string): Selection {
  const chosen = clipsOf(selection);
  const [first, ...also] = chosen.includes(id) ? chosen.filter((c) => c !== id) : [...chosen, id];
  return first ? { kind: 'clip', id: first, also } : { kind: 'none' };
}

/** All keyframes that are selected. */
export function keysOf(selection: Selection): Key[] {
  return selection.kind === 'keys' ? selection.keys : NONE;
}

const NONE: Key[] = [];
