import { create } from 'zustand';

/** Whether effects and findings say what they are for; F1 asks for it and sends it away. */
export const useAdvice = create<{ shown: boolean; toggle: () => void }>()((set) => ({
  shown: false,
  toggle: () => set((s) => ({ shown: !s.shown })),
}));
