/** All that lies on the tracks of a reel. */
import type { Clip, ReelDocument, Treatment } from '../../reel/document';
import type { Part } from './selection';

/** A clip or a treatment with the track that it lies on. */
export type Laid = { track: string } & (
  { kind: 'clip'; part: Clip } | { kind: 'treatment'; part: Treatment }
);

/** Track after track, the clips of each before its treatments. */
export function everything(document: ReelDocument): Laid[] {
  return (document.tracks ?? []).flatMap((t) => [
    ...(t.clips ?? []).map((part) => ({ kind: 'clip' as const, part, track: t.id })),
    ...(t.treatments ?? []).map((part) => ({ kind: 'treatment' as const, part, track: t.id })),
  ]);
}

export const named = ({ kind, part }: Laid): Part => ({ kind, id: part.id });
