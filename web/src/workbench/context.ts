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
  /** Asked of the browser once for all that is drawn. */
  scheme: 'light' | 'dark';
}

/** What does not change with the document. */
export type Tools = Omit<Workbench, 'document'>;

export const ToolsContext = createContext<Tools | undefined>(undefined);

/** For the many that are drawn: they are not drawn anew whenever anything is edited. */
export function useTools(): Tools {
  const found = useContext(ToolsContext);
  if (!found) throw new Error('The workbench is not open.');
  return found;
}

export const WorkbenchContext = createContext<Workbench | undefined>(undefined);

export function useWorkbench(): Workbench {
  const found = useContext(WorkbenchContext);
  if (!found) throw new Error('The workbench is not open.');
  return found;
}
