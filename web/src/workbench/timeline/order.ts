/** The order in which treatments that lie over one another are processed. */
import { trackOf, type ReelDocument, type Treatment } from '../../reel/document';

export interface Place {
  index: number;
  text: string;
}

/** Where a treatment comes in its track's order when it is moved by rows; nothing if nowhere. */
export function placeAfter(
  document: ReelDocument,
  own: Treatment,
  rows: number,
): Place | undefined {
  const all = trackOf(document, 'treatments', own.id)?.treatments ?? [];
  const over = all.filter(
    (t) => t.start < own.start + own.length && own.start < t.start + t.length,
  );
  const mine = over.findIndex((t) => t.id === own.id);
  const other = over[Math.max(0, Math.min(over.length - 1, mine + rows))];
  if (!other || other.id === own.id) return undefined;
  const name = other.name || 'the other treatment';
  return {
    index: all.indexOf(other),
    text: rows < 0 ? `processed before ${name}` : `processed after ${name}`,
  };
}
