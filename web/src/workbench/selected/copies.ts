/** The edits that lay what has been copied. */
import type { ReelDocument } from '../../reel/document';
import type { Command } from '../../reel/session';
import { newId } from '../../ui/ids';
import type { Copied } from './copied';
import { everything } from './laid';
import type { Part } from './selection';

interface Copies {
  commands: Command[];
  /** What they make. */
  made: Part[];
}

type CopiedClip = Extract<Copied, { kind: 'clip' }>;

/**
 * Lay copies so that the earliest begins at a moment; all keep their distances.
 *
 * Each goes to its own track; what comes from another reel, or from a track that is gone, to a new
 * one.
 *
 * @param moment A sample of the reel.
 * @param document The reel as it is.
 * @param reel Its id.
 */
export function copiesAt(
  parts: readonly Copied[],
  moment: number,
  document: ReelDocument,
  reel: string,
): Copies {
  const clips = parts.filter((c) => c.kind === 'clip');
  const spans = parts.filter((c) => c.kind === 'treatment');
  const tracks = new Set(document.tracks?.map((t) => t.id));
  const pasted = { id: newId('t'), name: 'Pasted' };
  const trackOf = (c: Copied) => (c.reel === reel && tracks.has(c.track) ? c.track : pasted.id);
  const there = new Set(everything(document).map(({ kind, part }) => `${kind}:${part.id}`));
  // Clips that are still there are copied where they lie now.
  const here = clips.every((c) => c.reel === reel && there.has(`clip:${c.part.id}`));
  const laid = here ? spans : parts;

  const first = Math.min(...parts.map((c) => c.part.start));
  const after = (list: readonly Copied[]) => Math.min(...list.map((c) => c.part.start)) - first;
  const needed = laid.some((c) => trackOf(c) === pasted.id);
  const commands: Command[] = needed ? [{ kind: 'add_track', track: pasted }] : [];
  const clipIds = clips.map(() => newId('c'));
  const spanIds = spans.map(() => newId('f'));
  if (clips.length) {
    const at = moment + after(clips);
    if (here) {
      const ids = clips.map((c) => c.part.id);
      commands.push({ kind: 'copy_clips', ids, new: clipIds, at: { sample: at } });
    } else commands.push(...broughtIn(clips, clipIds, at, document, trackOf));
  }
  if (spans.length)
    commands.push({
      kind: 'paste_treatments',
      at: { sample: moment + after(spans) },
      parts: spans.map((c, i) => ({ track: trackOf(c), id: spanIds[i], treatment: c.part })),
    });
  return {
    commands,
    made: [
      ...clipIds.map((id): Part => ({ kind: 'clip', id })),
      ...spanIds.map((id): Part => ({ kind: 'treatment', id })),
    ],
  };
}

/** Clips of another reel, or that are no longer there: their media come along. */
function broughtIn(
  clips: CopiedClip[],
  ids: string[],
  at: number,
  document: ReelDocument,
  trackOf: (c: Copied) => string,
): Command[] {
  const listed = new Set(document.media?.map((m) => m.id));
  const media = new Map(clips.map((c) => [c.part.media, c.path]));
  const first = Math.min(...clips.map((c) => c.part.start));
  return [
    ...[...media]
      .filter(([id]) => !listed.has(id))
      .map(([id, path]) => ({ kind: 'add_medium', medium: { id, path } })),
    ...clips.map((c, i) => ({
      kind: 'add_clip',
      track: trackOf(c),
      clip: { ...c.part, id: ids[i], start: at + c.part.start - first, tie: undefined },
    })),
  ];
}
