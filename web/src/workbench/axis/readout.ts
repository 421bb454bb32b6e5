/** What is said beside the pointer during a drag. */
import { create } from 'zustand';

export interface Readout {
  sample: number;
  text: string;
  /** What it snapped to. */
  to: string;
}

export const useReadout = create<{
  readout: Readout | undefined;
  show: (readout: Readout | undefined) => void;
}>()((set) => ({ readout: undefined, show: (readout) => set({ readout }) }));
