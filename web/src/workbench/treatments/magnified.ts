/** The treatment whose edges are magnified, and which of them. */
import { create } from 'zustand';

interface Magnified {
  id: string | undefined;
  edge: 'start' | 'end';
}

export const useMagnified = create<Magnified>()(() => ({ id: undefined, edge: 'start' }));
