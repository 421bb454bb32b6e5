/** What is done in the sheet of one part, done to all parts that are selected with it. */
import { useMemo } from 'react';
import { useShallow } from 'zustand/react/shallow';
import { atOnce } from '../../hand/gesture';
import { listOf, type Command } from '../../reel/draft';
import { partsOf, useSelection, type Part } from './selection';

/** Edits of one part that can be made of others as well. */
const ALIKE = new Set([
  'set_clip',
  'set_fade',
  'set_treatment',
  'set_chain',
  'set_effect',
  'add_effect',
  'add_effects',
  'apply_preset',
  'move_effect',
  'remove_effect',
  'reset_effects',
]);

interface Together {
  /** The same edits, of all that are selected. */
  alike: (commands: readonly Command[]) => Command[];
  edit: (commands: Command | readonly Command[]) => Promise<boolean>;
}

/** @param owner What the sheet shows, as `clip:ID` or `treatment:ID`; others are not several. */
export function useTogether(owner: string): Together {
  const owners = useSelection(
    useShallow((s) => {
      const all = partsOf(s.selection).map((part) => `${part.kind}:${part.id}`);
      return all.includes(owner) ? all.filter((other) => other !== owner) : [];
    }),
  );
  return useMemo(() => {
    const alike = (commands: readonly Command[]) =>
      commands.map((command) =>
        // Each keeps its own name.
        owners.length && ALIKE.has(command.kind) && !('name' in command)
          ? { kind: 'for_all', command, owners }
          : command,
      );
    return {
      alike,
      edit: (commands) => atOnce(alike(listOf(commands))),
    };
  }, [owners]);
}

/** How many clips and treatments these are: “2 clips and a treatment”. */
export function countText(parts: readonly Part[]): string {
  const words = (['clip', 'treatment'] as const).flatMap((kind) => {
    const count = parts.filter((part) => part.kind === kind).length;
    return count > 0 ? (count === 1 ? `a ${kind}` : `${count} ${kind}s`) : [];
  });
  return words.join(' and ');
}
