/** What has been asked for by a command and is shown elsewhere: dialogs, the list of effects. */
import { create } from 'zustand';

export type Asked = 'add-effect' | 'keys' | 'export';

export const useAsked = create<{
  asked: Asked | undefined;
  ask: (what: Asked | undefined) => void;
}>()((set) => ({ asked: undefined, ask: (asked) => set({ asked }) }));
