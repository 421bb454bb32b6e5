/** Copied effects; they outlive the window, so they can go into another reel. */
import { create } from 'zustand';
import type { EffectPart } from '../../reel/document';
import { newId } from '../../ui/ids';
import { storedList, storeList } from '../../ui/stored';

const KEY = 'bathyphon.copied-effects';

interface Clipboard {
  effects: EffectPart[];
  copy: (effects: EffectPart[]) => void;
}

const stored = () => storedList<EffectPart>(KEY);

export const useClipboard = create<Clipboard>()((set) => ({
  effects: stored(),
  copy: (effects) => {
    storeList(KEY, effects);
    set({ effects });
  },
}));

window.addEventListener('storage', (e) => {
  if (e.key === KEY) useClipboard.setState({ effects: stored() });
});

/** Copies with ids of their own. */
export function fresh(effects: EffectPart[]): EffectPart[] {
  return effects.map((effect) => ({ ...structuredClone(effect), id: newId('e') }));
}
