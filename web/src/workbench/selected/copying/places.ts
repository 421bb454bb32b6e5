/** The places that “Copy to …” offers: what is selected, tracks, and kinds of shots and markers. */
import type { MarkerKind, ReelDocument } from '../../../reel/document';
import type { Part } from '../selection';

interface Marked {
  label?: string;
  mark?: MarkerKind;
}

export interface CopyPlace {
  label: string;
  to: { clips?: string[]; track?: string; shots?: string; marked?: Marked; markers?: Marked };
}

/**
 * What there is to copy to.
 *
 * @param document The reel.
 * @param source What is copied: a clip's go to clips, a treatment of a stretch also to markers.
 * @param others What else is selected.
 */
export function copyPlaces(
  document: ReelDocument,
  source: Part,
  others: readonly Part[],
): CopyPlace[] {
  const clips = others.filter((part) => part.kind === 'clip').map((part) => part.id);
  const shots = distinct((document.picture?.shots ?? []).map((shot) => shot.name));
  const markers = document.markers ?? [];
  const kinds: [string, Marked][] = [
    ...distinct(markers.map((m) => m.label)).map((label): [string, Marked] => [
      `“${label}”`,
      { label },
    ]),
    ...distinct(markers.map((m) => m.kind ?? 'note')).map((mark): [string, Marked] => [
      `of the kind ${mark}`,
      { mark },
    ]),
  ];
  const over = source.kind === 'clip' ? 'Clips under' : 'Over';
  const at = source.kind === 'clip' ? 'Clips at' : 'From';
  return [
    ...(clips.length
      ? [{ label: `The ${counted(clips.length)} selected with it`, to: { clips } }]
      : []),
    ...(document.tracks ?? [])
      .filter((track) => track.clips?.some((clip) => clip.id !== source.id))
      .map((track) => ({ label: `All clips of ${track.name}`, to: { track: track.id } })),
    ...shots.map((name) => ({ label: `${over} each shot “${name}”`, to: { shots: name } })),
    ...kinds.map(([name, marked]) => ({
      label: `${over} each shot with a marker ${name}`,
      to: { marked },
    })),
    ...kinds.map(([name, marked]) => ({
      label: `${at} each marker ${name}`,
      to: { markers: marked },
    })),
  ];
}

function counted(clips: number): string {
  return clips === 1 ? 'clip' : `${clips} clips`;
}

function distinct<T extends string>(names: readonly (T | undefined)[]): T[] {
  return [...new Set(names.filter((name): name is T => Boolean(name)))];
}
