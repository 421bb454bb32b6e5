/**
 * A draft: edits that a hand is making and has not let go of.
 *
 * What is shown is the document with the draft's patch, which the server works out: no rule of an
 * edit is known here.
 */
import type { ReelState } from '../api/client';
import type { ReelDocument } from './document';
import { applyPatch, type Op } from './patch';

export type Command = { kind: string } & Record<string, unknown>;
export type Derived = ReelState['derived'];

/** One edit may be said as the command that it is made of. */
export function listOf(commands: Command | readonly Command[]): readonly Command[] {
  return 'kind' in commands ? [commands] : commands;
}

export function sameCommands(a: readonly Command[], b: readonly Command[]): boolean {
  return a === b || JSON.stringify(a) === JSON.stringify(b);
}

/** Edits that are on their way under an id. */
export interface Sent {
  edit_id: string;
  commands: readonly Command[];
}

export interface Draft {
  commands: readonly Command[];
  /** What the server has made of it, or of one a moment before, at a revision of the reel. */
  answer?: { revision: number; patch: Op[] };
  derived?: Derived | undefined;
  /** It has been let go of, and is on its way under this id. */
  sentAs?: string;
  /** What this hand had let go of before, and what has not been recorded yet: it is made upon that. */
  upon?: readonly Sent[];
}

const NOTHING_SENT: readonly Sent[] = [];

/** A draft that a hand makes of these commands, after the one that is there. */
export function nextDraft(before: Draft | undefined, commands: readonly Command[]): Draft {
  // What the one before it looks like is shown until this one has been worked out.
  const { answer, derived, sentAs, upon = NOTHING_SENT } = before ?? {};
  const sent = sentAs ? [...upon, { edit_id: sentAs, commands: before!.commands }] : upon;
  return { commands, ...(answer && { answer }), derived, ...(sent.length > 0 && { upon: sent }) };
}

/** A draft once an edit has been decided: gone, if it was that edit. */
export function draftAfter(draft: Draft | undefined, editId: string): Draft | undefined {
  if (draft?.sentAs === editId) return undefined;
  if (!draft?.upon?.some((sent) => sent.edit_id === editId)) return draft;
  const { upon, ...alone } = draft;
  const left = upon.filter((sent) => sent.edit_id !== editId);
  return left.length > 0 ? { ...alone, upon: left } : alone;
}

/** What is there once a hand takes back what it is doing: what it had let go of before. */
export function draftBefore({ upon = NOTHING_SENT }: Draft): Draft | undefined {
  const last = upon.at(-1);
  if (!last) return undefined;
  const rest = upon.slice(0, -1);
  return { commands: last.commands, sentAs: last.edit_id, ...(rest.length > 0 && { upon: rest }) };
}

/** What the server has accepted. */
export interface Committed {
  revision: number;
  document: ReelDocument | undefined;
  derived: Derived | undefined;
}

/** The document and what follows from it, with the draft as far as it is known. */
export function withDraft(
  committed: Committed,
  draft: Draft | undefined,
): Pick<Committed, 'document' | 'derived'> {
  const { document, derived, revision } = committed;
  if (!document || draft?.answer?.revision !== revision) return { document, derived };
  return {
    document: applyPatch(document, draft.answer.patch),
    derived: draft.derived ?? derived,
  };
}
