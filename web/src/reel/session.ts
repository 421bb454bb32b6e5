/**
 * An open reel: its document at a revision, the edits on their way to the server, and the draft that
 * a hand is making.
 *
 * What is committed changes only by what the server has accepted; what is shown has the draft as
 * well. Edits of a reel that has been left go on being sent.
 */
import { replaceEqualDeep } from '@tanstack/react-query';
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
import {
  draftAfter,
  draftBefore,
  listOf,
  nextDraft,
  withDraft,
  type Command,
  type Committed,
  type Derived,
  type Draft,
} from './draft';
import { applyPatch, type Op } from './patch';
import { makeQueue, type Queue, type SaveState } from './queue';

export type { Command } from './draft';
export type { SaveState } from './queue';

interface Session {
  id: string;
  revision: number;
  /** What is shown: what is committed, with the draft. */
  document: ReelDocument | undefined;
  derived: Derived | undefined;
  committed: Committed;
  draft: Draft | undefined;
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
  /** Make an edit of one or several commands; whether it was accepted. */
  edit: (commands: Command | readonly Command[]) => Promise<boolean>;
  /** A hand is making these edits now; none ends the draft, and what was is shown again. */
  setDraft: (commands: readonly Command[] | undefined) => void;
  /** What the server makes of the draft. */
  showDraft: (answer: { revision: number; patch: Op[] }, derived: Derived | undefined) => void;
  /** Make the draft an edit; it is shown until the server has decided. */
  keepDraft: () => Promise<boolean>;
  undoLast: () => Promise<boolean>;
  redoLast: () => Promise<boolean>;
  /** Undo, in one step, all that was done after a revision. */
  backTo: (revision: number) => Promise<boolean>;
  dismiss: () => void;
  /** Say what cannot be done, in one sentence. */
  tell: (trouble: string) => void;
  /** What the last edit of this window may go on to. */
  offer: Change['offer'];
  /** What a hand has not let go of is let go of before anything else is done. */
  settle: (() => void) | undefined;
  /** Resolves once a draft has been heard, or will not be soon: then it is sent as an edit. */
  heard: ((commands: readonly Command[]) => Promise<void>) | undefined;
}

const NOTHING_COMMITTED: Committed = { revision: 0, document: undefined, derived: undefined };

/** What is new, its parts the same objects as before where they say the same: those stay drawn. */
function kept<T>(before: T | undefined, now: T): T {
  return replaceEqualDeep(before, now) as T;
}

const queues = new Map<string, Queue>();
/** What is known of each reel, open or not: edits go on being sent after it has been left. */
const known = new Map<string, Pick<ReelState, 'revision' | 'undo' | 'redo'>>();

/** Edits, of whatever reel, that the server has not accepted yet. */
export function unsentEdits(): number {
  const held = useSession.getState().draft?.commands.length ? 1 : 0;
  return [...queues.values()].reduce((sum, queue) => sum + queue.unsent(), held);
}

export const useSession = create<Session>()((set, get) => {
  let catching = false;
  let behind = false;
  /** The newest revision that is known of, though this window's own edits are still under way. */
  let heardOf = 0;

  /** Set what is committed and what is drafted, and what is shown of both. */
  const show = (committed: Committed, draft: Draft | undefined, more: Partial<Session> = {}) =>
    set({
      committed,
      draft,
      revision: committed.revision,
      ...withDraft(committed, draft),
      ...more,
    });

  const take = (state: ReelState) => {
    known.set(state.id, state);
    const { committed, draft } = get();
    // The same revision is the same document: nothing of it is drawn anew.
    const same = state.revision === committed.revision && committed.document;
    const document = same || kept(committed.document, state.document as unknown as ReelDocument);
    const derived = kept(committed.derived, state.derived);
    show({ revision: state.revision, document, derived }, draft, {
      undo: state.undo ?? null,
      redo: state.redo ?? null,
    });
  };

  const fetchAll = async (id: string) =>
    unwrap(client.GET('/api/reels/{id}', { params: { path: { id } } }));

  const accept = async (id: string, change: Change, editId: string) => {
    known.set(id, change);
    if (get().id !== id) return;
    const { committed } = get();
    const { revision, document } = committed;
    const draft = draftAfter(get().draft, editId);
    if (document && change.revision === revision + 1) {
      const next = applyPatch(document, change.patch as unknown as Op[]);
      const derived = kept(committed.derived, change.derived);
      show({ revision: change.revision, document: next, derived }, draft, {
        undo: change.undo ?? null,
        redo: change.redo ?? null,
        offer: change.offer ?? null,
      });
      return;
    }
    if (draft !== get().draft) show(committed, draft);
    if (change.revision > revision) {
      const state = await fetchAll(id);
      if (get().id === id && state.revision >= get().revision) take(state);
    }
  };

  const queueOf = (id: string): Queue => {
    const there = queues.get(id);
    if (there) return there;
    const queue = makeQueue({
      accepted: (change, editId) => accept(id, change, editId),
      refused: async (refusal, editId) => {
        if (get().id === id) show(get().committed, draftAfter(get().draft, editId));
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
    const { id, settle } = get();
    settle?.();
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

  const send = (commands: readonly Command[], editId?: string, after?: Promise<void>) => {
    const { id } = get();
    return queueOf(id).add(async (edit_id) => {
      await after;
      return unwrap(
        client.POST('/api/reels/{id}/edits', {
          params: { path: { id } },
          body: { edit_id, base: known.get(id)?.revision ?? 0, commands: [...commands] },
        }),
      );
    }, editId);
  };

  return {
    id: '',
    revision: 0,
    document: undefined,
    derived: undefined,
    committed: NOTHING_COMMITTED,
    draft: undefined,
    undo: null,
    redo: null,
    save: 'saved',
    trouble: '',
    refusals: 0,
    offer: null,
    settle: undefined,
    heard: undefined,
    open: async (id) => {
      heardOf = 0;
      const save = queues.get(id)?.unsent() ? 'saving' : 'saved';
      show(NOTHING_COMMITTED, undefined, { id, trouble: '', save });
      const state = await fetchAll(id);
      if (get().id === id) take(state);
    },
    close: () => show(NOTHING_COMMITTED, undefined, { id: '', offer: null }),
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
    edit: (commands) => {
      get().settle?.();
      return send(listOf(commands));
    },
    setDraft: (commands) => {
      const { committed, draft } = get();
      if (commands) set({ draft: nextDraft(draft, commands) });
      else if (draft && !draft.sentAs) show(committed, draftBefore(draft));
    },
    showDraft: (answer, derived) => {
      const { committed, draft } = get();
      if (!draft) return;
      // The edit that it has become, or that it is made upon, is on its way here: until then it is
      // shown as it was.
      if ((draft.sentAs ?? draft.upon) && answer.revision !== committed.revision) return;
      const before = draft.derived ?? committed.derived;
      show(committed, {
        ...draft,
        answer,
        derived: derived ? kept(before, derived) : draft.derived,
      });
    },
    keepDraft: () => {
      const { committed, draft } = get();
      if (!draft?.commands.length || draft.sentAs) {
        show(committed, draft?.sentAs ? draft : draft && draftBefore(draft));
        return Promise.resolve(true);
      }
      const sentAs = crypto.randomUUID();
      set({ draft: { ...draft, sentAs } });
      return send(draft.commands, sentAs, get().heard?.(draft.commands));
    },
    undoLast: () => turn('undo'),
    redoLast: () => turn('redo'),
    backTo: (revision) => {
      const { id, settle } = get();
      settle?.();
      return queueOf(id).add((edit_id) => {
        const expect = known.get(id)?.undo?.revision;
        if (expect === undefined) throw new Refusal('There is nothing to undo.', 422);
        return unwrap(
          client.POST('/api/reels/{id}/back', {
            params: { path: { id } },
            body: { edit_id, expect, revision },
          }),
        );
      });
    },
    dismiss: () => set({ trouble: '' }),
    tell: (trouble) => set({ trouble }),
  };
});
