/** Which lanes are open beneath their tracks, remembered for each reel in this browser. */
import { create } from 'zustand';
import { storedList, storeList } from '../../ui/stored';

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
    storeList(keyOf(get().reel), names);
    set({ names });
  };
  return {
    reel: '',
    names: [],
    inHand: undefined,
    load: (reel) => {
      set({ reel, names: storedList<string>(keyOf(reel)), inHand: undefined });
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
