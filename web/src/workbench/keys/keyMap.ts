/** Which key does what: the usual ones, and those that the account has changed. */
import { create } from 'zustand';
import { client, unwrap } from '../../api/client';
import { COMMANDS, type CommandId } from './table';

type Changed = Record<string, string[]>;

interface KeyMap {
  changed: Changed;
  load: () => Promise<void>;
  /** Give a command other keys; they are taken from whatever had them. */
  set: (id: CommandId, keys: string[]) => Promise<void>;
  /** All keys as they usually are. */
  reset: () => Promise<void>;
}

export function keysOfCommand(changed: Changed, id: CommandId): string[] {
  return changed[id] ?? COMMANDS.find((c) => c.id === id)!.keys.slice();
}

/** The command that a chord stands for. */
export function commandOfChord(changed: Changed, chord: string): CommandId | undefined {
  return COMMANDS.find((c) => keysOfCommand(changed, c.id).includes(chord))?.id;
}

export const useKeyMap = create<KeyMap>()((set, get) => {
  const keep = async (changed: Changed) => {
    const before = get().changed;
    set({ changed });
    try {
      await unwrap(client.PUT('/api/account/preferences', { body: { keys: changed } }));
    } catch (error) {
      set({ changed: before });
      throw error;
    }
  };
  return {
    changed: {},
    load: async () => {
      const found = await unwrap(client.GET('/api/account/preferences'));
      set({ changed: found.keys ?? {} });
    },
    set: (id, keys) => {
      const changed = { ...get().changed, [id]: keys };
      for (const other of COMMANDS) {
        const own = keysOfCommand(changed, other.id);
        if (other.id !== id && own.some((k) => keys.includes(k)))
          changed[other.id] = own.filter((k) => !keys.includes(k));
      }
      return keep(changed);
    },
    reset: () => keep({}),
  };
});
