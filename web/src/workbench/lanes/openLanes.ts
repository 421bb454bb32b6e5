/** Which lanes are open beneath their tracks, remembered for each reel in this browser. */
import { create } from 'zustand';

interface OpenLanes {
  reel: string;
  names: string[];
  /** The lane that the key for a keyframe acts on: the last one in hand. */
  inHand: string | undefined;
  load: (reel: string) => void;
  toggle: (name: string) => void;
  take: (name: string) => void;
}

const keyOf = (reel: string) => `bathyphon.lanes.${reel}`;

export const useOpenLanes = create<OpenLanes>()((set, get) => {
  const keep = (names: string[]) => {
    localStorage.setItem(keyOf(get().reel), JSON.stringify(names));
    set({ names });
  };
  return {
    reel: '',
    names: [],
    inHand: undefined,
    load: (reel) => {
      let names: unknown = [];
      try {
        names = JSON.parse(localStorage.getItem(keyOf(reel)) ?? '[]');
      } catch {
        // What cannot be read is forgotten.
      }
      set({ reel, names: Array.isArray(names) ? names.map(String) : [], inHand: undefined });
    },
    toggle: (name) => {
      const { names, inHand } = get();
      const open = names.includes(name);
      keep(open ? names.filter((n) => n !== name) : [...names, name]);
      set({ inHand: open ? (inHand === name ? undefined : inHand) : name });
    },
    take: (name) => set({ inHand: name }),
  };
});
