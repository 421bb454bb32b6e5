/** What all parts of the workbench share. */
import { createContext, useContext } from 'react';
import type { EffectTable, MediaLine } from '../api/client';
import type { Player } from '../player/player';
import type { ReelDocument } from '../reel/document';
import type { Clock } from '../time/clock';

export interface Workbench {
  reel: string;
  document: ReelDocument;
  clock: Clock;
  player: Player;
  effects: EffectTable[];
  media: Map<string, MediaLine>;
}

export const WorkbenchContext = createContext<Workbench | undefined>(undefined);

export function useWorkbench(): Workbench {
  const found = useContext(WorkbenchContext);
  if (!found) throw new Error('The workbench is not open.');
  return found;
}
