/**
 * Edits of one reel on their way to the server, one after another.
 *
 * Each has an id of its own, so that one that is sent again after a lost connection applies once.
 * What cannot be sent now waits; nothing is given up but what the server refuses.
 */
import { Refusal, type Change } from '../api/client';

export type SaveState = 'saved' | 'saving' | 'offline' | 'signed-out';

export type Send = (editId: string) => Promise<Change>;

export interface Queue {
  /** Send an edit when its turn has come, under an id of its own; whether it was accepted. */
  add: (send: Send, editId?: string) => Promise<boolean>;
  /** How many have not been accepted yet. */
  unsent: () => number;
}

interface Listener {
  /** An edit has been accepted. */
  accepted: (change: Change, editId: string) => Promise<void>;
  /** The server will not have it. */
  refused: (refusal: Refusal, editId: string) => Promise<void>;
  state: (save: SaveState) => void;
}

interface Waiting {
  editId: string;
  send: Send;
  resolve: (done: boolean) => void;
}

const RETRY_MS = 1000;

export function makeQueue(listener: Listener): Queue {
  const waiting: Waiting[] = [];
  let running = false;

  const work = async () => {
    if (running) return;
    running = true;
    listener.state('saving');
    for (let next = waiting[0]; next; next = waiting[0]) {
      const trouble = await attempt(next);
      if (trouble) {
        listener.state(trouble);
        await new Promise((resolve) => setTimeout(resolve, RETRY_MS));
      } else {
        waiting.shift();
        listener.state(waiting.length ? 'saving' : 'saved');
      }
    }
    running = false;
  };

  /** Send one; what keeps it from being decided, if anything does. */
  const attempt = async (edit: Waiting): Promise<SaveState | undefined> => {
    let change: Change;
    try {
      change = await edit.send(edit.editId);
    } catch (error) {
      if (!(error instanceof Refusal)) return 'offline';
      if (error.status === 401 || error.status === 403) return 'signed-out';
      // Too much at once, or the server is not well: later.
      if (error.status === 429 || error.status === 408 || error.status >= 500) return 'offline';
      await listener.refused(error, edit.editId);
      edit.resolve(false);
      return undefined;
    }
    try {
      await listener.accepted(change, edit.editId);
    } catch {
      // It is saved. What this window lacks it gets with the next look at the reel.
    }
    edit.resolve(true);
    return undefined;
  };

  return {
    add: (send, editId = crypto.randomUUID()) =>
      new Promise((resolve) => {
        waiting.push({ editId, send, resolve });
        void work();
      }),
    unsent: () => waiting.length,
  };
}
