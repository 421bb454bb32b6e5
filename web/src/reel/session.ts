/**
 * An open reel: its document at a revision, and the edits on their way to the server.
 *
 * The document changes only by what the server has accepted. Edits of a reel that has been left go
 * on being sent.
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
import { makeQueue, type Queue, type SaveState } from './queue';

export type { SaveState } from './queue';
export type Command = { kind: string } & Record<string, unknown>;

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
  /** Counts refusals: what shows a value that was refused goes back to the document's. */
  refusals: number;
  open: (id: string) => Promise<void>;
  close: () => void;
  /** Fetch the document again if the server's revision is newer. */
  catchUp: (revision?: number) => Promise<void>;
  edit: (command: Command) => Promise<boolean>;
  undoLast: () => Promise<boolean>;
  redoLast: () => Promise<boolean>;
  dismiss: () => void;
}

const queues = new Map<string, Queue>();
/** What is known of each reel, open or not: edits go on being sent after it has been left. */
const known = new Map<string, Pick<ReelState, 'revision' | 'undo' | 'redo'>>();

/** Edits, of whatever reel, that the server has not accepted yet. */
export function unsentEdits(): number {
  return [...queues.values()].reduce((sum, queue) => sum + queue.unsent(), 0);
}

export const useSession = create<Session>()((set, get) => {
  let catching = false;
  let behind = false;
  /** The newest revision that is known of, though this window's own edits are still under way. */
  let heardOf = 0;

  const take = (state: ReelState) => {
    known.set(state.id, state);
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
  };

  const fetchAll = async (id: string) =>
    unwrap(client.GET('/api/reels/{id}', { params: { path: { id } } }));

  const accept = async (id: string, change: Change) => {
    known.set(id, change);
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
      const state = await fetchAll(id);
      if (get().id === id && state.revision >= get().revision) take(state);
    }
  };

  const queueOf = (id: string): Queue => {
    const there = queues.get(id);
    if (there) return there;
    const queue = makeQueue({
      accepted: (change) => accept(id, change),
      refused: async (refusal) => {
        set({ trouble: refusal.message, refusals: get().refusals + 1 });
        if (refusal.status === 409 && get().id === id) await look();
      },
      state: (save) => {
        if (get().id === id) set({ save });
        if (save === 'saved') void get().catchUp(heardOf);
      },
    });
    queues.set(id, queue);
    return queue;
  };

  /** Many edits of another window are caught up with at once, not one by one. */
  const look = async () => {
    behind = true;
    if (catching) return;
    catching = true;
    while (behind && get().id) {
      behind = false;
      const { id } = get();
      try {
        const state = await fetchAll(id);
        if (get().id === id && state.revision >= get().revision) take(state);
      } catch {
        // Opening the reel has said what is wrong; a lost connection is looked after by events.
      }
      // Another reel that has been opened meanwhile is looked at, too.
      behind ||= get().id !== id;
    }
    catching = false;
  };

  const turn = (what: 'undo' | 'redo') => {
    const { id } = get();
    return queueOf(id).add((edit_id) => {
      const expect = known.get(id)?.[what]?.revision;
      if (expect === undefined) throw new Refusal(`There is nothing to ${what}.`, 422);
      return unwrap(
        client.POST(`/api/reels/{id}/${what}`, {
          params: { path: { id } },
          body: { edit_id, expect },
        }),
      );
    });
  };

  return {
    id: '',
    revision: 0,
    document: undefined,
    derived: undefined,
    undo: null,
    redo: null,
    save: 'saved',
    trouble: '',
    refusals: 0,
    open: async (id) => {
      heardOf = 0;
      const save = queues.get(id)?.unsent() ? 'saving' : 'saved';
      set({ id, document: undefined, trouble: '', revision: 0, save });
      const state = await fetchAll(id);
      if (get().id === id) take(state);
    },
    close: () => set({ id: '', document: undefined }),
    catchUp: async (revision) => {
      const { id } = get();
      if (!id || (revision !== undefined && revision <= get().revision)) return;
      if (revision !== undefined && queues.get(id)?.unsent()) {
        // It may be one's own: its answer is on the way.
        heardOf = Math.max(heardOf, revision);
        return;
      }
      await look();
    },
    edit: (command) => {
      const { id } = get();
      return queueOf(id).add((edit_id) =>
        unwrap(
          client.POST('/api/reels/{id}/edits', {
            params: { path: { id } },
            body: { edit_id, base: known.get(id)?.revision ?? 0, command },
          }),
        ),
      );
    },
    undoLast: () => turn('undo'),
    redoLast: () => turn('redo'),
    dismiss: () => set({ trouble: '' }),
  };
});
