/** Which analyses are open in the timeline, and how; remembered for each reel in this browser. */
import { create } from 'zustand';
import { storedList, storeList } from '../../ui/stored';

/** The kind that is no row of columns: how a tail decays. */
export const DECAY = 'decay';

export type Sides = 'after' | 'before' | 'both' | 'difference';

/** How an analysis is shown. */
export interface Shown {
  sides: Sides;
  axis: 'log' | 'mel';
  sharp: 'time' | 'both' | 'pitch';
  /** The level that is brightest, in dB, and how far below it colours reach. */
  top: number;
  span: number;
  large: boolean;
}

export interface Open extends Shown {
  /** What it is and of what, and from where to where if it is of a range. */
  name: string;
  kind: string;
  /** `mix`, `track:t1`, `clip:c1` or `treatment:f1`. */
  of: string;
  range?: { start: number; end: number } | undefined;
}

const USUAL: Shown = {
  sides: 'after',
  axis: 'log',
  sharp: 'both',
  top: -20,
  span: 80,
  large: false,
};

interface Opened {
  reel: string;
  open: Open[];
  load: (reel: string) => void;
  /** Opens it, or brings what is open already; gives its name. */
  show: (kind: string, of: string, range?: Open['range']) => string;
  change: (name: string, how: Partial<Shown>) => void;
  close: (name: string) => void;
}

const keyOf = (reel: string) => `bathyphon.analyses.${reel}`;

export const useOpened = create<Opened>()((set, get) => {
  const keep = (open: Open[]) => {
    storeList(keyOf(get().reel), open);
    set({ open });
  };
  return {
    reel: '',
    open: [],
    load: (reel) => {
      // What an older version has kept is shown as is usual where it says nothing.
      const open = storedList<Open>(keyOf(reel)).map((one) => ({ ...USUAL, ...one }));
      set({ reel, open });
    },
    show: (kind, of, range) => {
      const name = `${kind}/${of}${range ? `/${range.start}-${range.end}` : ''}`;
      const { open } = get();
      if (!open.some((one) => one.name === name))
        keep([...open, { ...USUAL, name, kind, of, range }]);
      return name;
    },
    change: (name, how) =>
      keep(get().open.map((one) => (one.name === name ? { ...one, ...how } : one))),
    close: (name) => keep(get().open.filter((one) => one.name !== name)),
  };
});
