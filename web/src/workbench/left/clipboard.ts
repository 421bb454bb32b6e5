/** Copied effects; they outlive the window, so they can go into another reel. */
import { create } from 'zustand';
import type { EffectPart } from '../../reel/document';
import { newId } from '../../ui/ids';

const KEY = 'bathyphon.copied-effects';

interface Clipboard {
  effects: EffectPart[];
  copy: (effects: EffectPart[]) => void;
}

function stored(): EffectPart[] {
  try {
    const found: unknown = JSON.parse(localStorage.getItem(KEY) ?? '[]');
    return Array.isArray(found) ? (found as EffectPart[]) : [];
  } catch {
    return [];
  }
}

export const useClipboard = create<Clipboard>()((set) => ({
  effects: stored(),
  copy: (effects) => {
    localStorage.setItem(KEY, JSON.stringify(effects));
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
