/** What has been asked for by a command and is shown elsewhere: dialogs, the list of effects. */
import { create } from 'zustand';

export type Asked = 'add-effect' | 'keys' | 'export' | 'search' | 'help' | 'copy-to';

interface Request {
  what: Asked;
  /** What has already been typed, or which page of help. */
  text?: string;
}

export const useAsked = create<{
  asked: Request | undefined;
  ask: (what: Asked | undefined, text?: string) => void;
}>()((set) => ({
  asked: undefined,
  ask: (what, text) => set({ asked: what && { what, ...(text ? { text } : {}) } }),
}));
