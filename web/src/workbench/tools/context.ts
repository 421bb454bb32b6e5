/** What all parts of the workbench share. */
import { createContext, useContext } from 'react';
import type { EffectTable, MediaLine } from '../../api/client';
import type { Player } from '../../player/player';
import type { Clock } from '../../time/clock';

/** What does not change with the document: who asks for it is not drawn anew by an edit. */
export interface Tools {
  reel: string;
  clock: Clock;
  player: Player;
  effects: EffectTable[];
  media: Map<string, MediaLine>;
  /** Asked of the browser once for all that is drawn. */
  scheme: 'light' | 'dark';
}

export const ToolsContext = createContext<Tools | undefined>(undefined);

export function useTools(): Tools {
  const found = useContext(ToolsContext);
  if (!found) throw new Error('The workbench is not open.');
  return found;
}
