/**
 * An open reel: its document at a revision, and the edits on their way to the server.
 *
 * Edits go out one after another, each with an id of its own, so that one that is sent again after
 * a lost connection applies once. The document changes only by what the server has accepted.
 */
import { create } from 'zustand';
import {
  client,
  Refusal,
  unwrap,
  type Change,
  type HistoryEntry,
  type ReelState,
} from '../api/client';
import type { ReelDocument } from './document';
import { applyPatch, type Op } from './patch';

export type Command = { kind: string } & Record<string, unknown>;
export type SaveState = 'saved' | 'saving' | 'offline';

interface Waiting {
  editId: string;
  run: (editId: string, revision: number) => Promise<Change>;
  resolve: (done: boolean) => void;
}

interface Session {
  id: string;
  revision: number;
  document: ReelDocument | undefined;
  derived: ReelState['derived'] | undefined;
  undo: HistoryEntry | null;
  redo: HistoryEntry | null;
  save: SaveState;
  /** The server's last refusal, one sentence. */
  trouble: string;
  open: (id: string) => Promise<void>;
  close: () => void;
  /** Fetch the document again if the server's revision is newer. */
  catchUp: (revision?: number) => Promise<void>;
  edit: (command: Command) => Promise<boolean>;
  undoLast: () => Promise<boolean>;
  redoLast: () => Promise<boolean>;
  dismiss: () => void;
}

let queue: Waiting[] = [];
let running = false;
let catching = false;
let behind = false;

const RETRY_MS = 1000;

export const useSession = create<Session>()((set, get) => {
  const take = (state: ReelState) =>
    set({
      revision: state.revision,
      // The same revision is the same document: nothing of it is drawn anew.
      document:
        (state.revision === get().revision && get().document) ||
        (state.document as unknown as ReelDocument),
      derived: state.derived,
      undo: state.undo ?? null,
      redo: state.redo ?? null,
    });

  const fetchAll = async (id: string) =>
    unwrap(client.GET('/api/reels/{id}', { params: { path: { id } } }));

  const accept = async (id: string, change: Change) => {
    const { revision, document } = get();
    if (get().id !== id) return;
    if (document && change.revision === revision + 1) {
      set({
        revision: change.revision,
        document: applyPatch(document, change.patch as unknown as Op[]),
        derived: change.derived,
        undo: change.undo ?? null,
        redo: change.redo ?? null,
      });
    } else if (change.revision > revision) {
      take(await fetchAll(id));
    }
  };

  const work = async () => {
    if (running) return;
    running = true;
    while (queue.length) {
      const id = get().id;
      const next = queue[0]!;
      set({ save: get().save === 'offline' ? 'offline' : 'saving' });
      try {
        await accept(id, await next.run(next.editId, get().revision));
        next.resolve(true);
        queue.shift();
        set({ save: 'saving' });
      } catch (error) {
        if (error instanceof Refusal && error.status >= 400 && error.status < 500) {
          queue.shift();
          set({ trouble: error.message });
          if (error.status === 409) await get().catchUp();
          next.resolve(false);
        } else {
          // The connection or the server is down: the edit waits and is sent again.
          set({ save: 'offline' });
          await new Promise((resolve) => setTimeout(resolve, RETRY_MS));
        }
      }
    }
    running = false;
    set({ save: 'saved' });
  };

  const enqueue = (run: Waiting['run']) =>
    new Promise<boolean>((resolve) => {
      queue.push({ editId: crypto.randomUUID(), run, resolve });
      void work();
    });

  return {
    id: '',
    revision: 0,
    document: undefined,
    derived: undefined,
    undo: null,
    redo: null,
    save: 'saved',
    trouble: '',
    open: async (id) => {
      set({ id, document: undefined, trouble: '', revision: 0 });
      take(await fetchAll(id));
    },
    close: () => {
      queue = [];
      set({ id: '', document: undefined });
    },
    catchUp: async (revision) => {
      const { id } = get();
      if (!id || (revision !== undefined && revision <= get().revision)) return;
      // Many edits of another window are caught up with at once, not one by one.
      behind = true;
      if (catching) return;
      catching = true;
      while (behind && get().id === id) {
        behind = false;
        try {
          const state = await fetchAll(id);
          if (get().id === id && state.revision >= get().revision) take(state);
        } catch {
          // Opening the reel has said what is wrong; a lost connection is looked after by events.
        }
      }
      catching = false;
    },
    edit: (command) => {
      const { id } = get();
      return enqueue((edit_id, base) =>
        unwrap(
          client.POST('/api/reels/{id}/edits', {
            params: { path: { id } },
            body: { edit_id, base, command },
          }),
        ),
      );
    },
    undoLast: () => {
      const { id } = get();
      return enqueue((edit_id) => {
        const expect = get().undo?.revision;
        if (expect === undefined) throw new Refusal('There is nothing to undo.', 422);
        return unwrap(
          client.POST('/api/reels/{id}/undo', {
            params: { path: { id } },
            body: { edit_id, expect },
          }),
        );
      });
    },
    redoLast: () => {
      const { id } = get();
      return enqueue((edit_id) => {
        const expect = get().redo?.revision;
        if (expect === undefined) throw new Refusal('There is nothing to redo.', 422);
        return unwrap(
          client.POST('/api/reels/{id}/redo', {
            params: { path: { id } },
            body: { edit_id, expect },
          }),
        );
      });
    },
    dismiss: () => set({ trouble: '' }),
  };
});
