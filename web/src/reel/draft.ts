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

export interface Draft {
  commands: readonly Command[];
  /** What the server has made of it, or of one a moment before, at a revision of the reel. */
  answer?: { revision: number; patch: Op[] };
  derived?: Derived | undefined;
  /** It has been let go of, and is on its way under this id. */
  sentAs?: string;
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
