/** Which side of the left column is open; commands open the shelf at what was looked for. */
import { create } from 'zustand';

export type Tab = 'selected' | 'shelf' | 'lists' | 'history';
export type View = 'reel' | 'sounds' | 'recipes' | 'presets';

interface LeftTab {
  tab: Tab;
  view: View;
  /** What a list of the shelf begins with: the line that is open, and the words that find it. */
  wanted: Wanted | undefined;
}

export interface Wanted {
  id: string;
  text: string;
  /** Counted up, so that the same can be wanted again. */
  time: number;
}

export const useLeftTab = create<LeftTab>()(() => ({
  tab: 'selected',
  view: 'reel',
  wanted: undefined,
}));

export const showTab = (tab: Tab) => useLeftTab.setState({ tab });

export const showView = (view: View) => useLeftTab.setState({ view, wanted: undefined });

let times = 0;

/** Open the shelf at a sound or a recipe. */
export function openShelf(view: View, id: string, text: string) {
  useLeftTab.setState({ tab: 'shelf', view, wanted: { id, text, time: ++times } });
}
