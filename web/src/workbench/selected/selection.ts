/** What is selected, and the range that has been dragged. */
import { create } from 'zustand';

/** One keyframe: its lane and its sample there, as commands address it. */
export interface Key {
  lane: string;
  at: number;
}

/** What several of can be selected together: moved, copied, removed and set alike. */
export interface Part {
  kind: 'clip' | 'treatment';
  id: string;
}

export type Selection =
  | { kind: 'none' }
  /** The part that the sheet shows, and further ones that are selected with it. */
  | (Part & { also?: Part[] })
  | { kind: 'track'; id: string }
  | { kind: 'mix' }
  | { kind: 'keys'; keys: Key[] }
  /** A lane as a table of its keyframes. */
  | { kind: 'lane'; lane: string }
  /** An analysis that is open in the timeline. */
  | { kind: 'analysis'; name: string }
  /** A stretch of one track or of several; it was begun on the first. */
  | { kind: 'range'; tracks: string[]; start: number; end: number };

interface Selected {
  selection: Selection;
  /** Effect whose card has been opened in the sheet, if any; see {@link openOf}. */
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

/** What `openEffect` says where each card has been closed. */
export const ALL_CLOSED = '';

/** Of a chain's effects the one that is open in the sheet: which has been opened, else the first. */
export function openOf<Effect extends { id: string }>(
  effects: readonly Effect[],
  openEffect: string | undefined,
): Effect | undefined {
  if (openEffect === ALL_CLOSED) return undefined;
  return effects.find((effect) => effect.id === openEffect) ?? effects[0];
}

/** The part that a chain is on, by the chain's owner. */
export function selectionOf(owner: string): Selection | undefined {
  const [kind, id] = owner.split(':');
  if (kind === 'mix') return { kind };
  if (id && (kind === 'clip' || kind === 'treatment' || kind === 'track')) return { kind, id };
  return undefined;
}

/** The owner of the chain of what is selected. */
export function ownerOf(selection: Selection): string | undefined {
  const { kind } = selection;
  if (kind === 'mix') return kind;
  const owns = kind === 'clip' || kind === 'treatment' || kind === 'track';
  return owns ? `${kind}:${selection.id}` : undefined;
}

/** The stretch that has been dragged over a track, if it is what is selected. */
export function draggedOn(selection: Selection, track: string) {
  if (selection.kind !== 'range') return undefined;
  return selection.tracks.includes(track) ? selection : undefined;
}

/** All clips and treatments that are selected, the one that the sheet shows first. */
export function partsOf(selection: Selection): Part[] {
  if (selection.kind !== 'clip' && selection.kind !== 'treatment') return NO_PARTS;
  const { kind, id, also } = selection;
  return [{ kind, id }, ...(also ?? NO_PARTS)];
}

function idsOf(selection: Selection, kind: Part['kind']): string[] {
  return partsOf(selection).flatMap((part) => (part.kind === kind ? part.id : []));
}

export const clipsOf = (selection: Selection) => idsOf(selection, 'clip');

export const treatmentsOf = (selection: Selection) => idsOf(selection, 'treatment');

export function isSelected(selection: Selection, { kind, id }: Part): boolean {
  return partsOf(selection).some((part) => part.kind === kind && part.id === id);
}

/** A selection of all that is given; the first is what the sheet shows. */
export function several([first, ...also]: readonly Part[]): Selection {
  return first ? { ...first, ...(also.length > 0 && { also }) } : { kind: 'none' };
}

/** The selection with a part added, or taken out if it was in. */
export function withPart(selection: Selection, part: Part): Selection {
  const others = partsOf(selection).filter((p) => p.kind !== part.kind || p.id !== part.id);
  const was = others.length < partsOf(selection).length;
  return several(was ? others : [...others, part]);
}

/** All keyframes that are selected. */
export function keysOf(selection: Selection): Key[] {
  return selection.kind === 'keys' ? selection.keys : NONE;
}

const NONE: Key[] = [];
const NO_PARTS: Part[] = [];
