/** Where one is: the playhead, and what is selected. */
import type { Schemas } from '../../api/client';
import { usePlayer } from '../../player/player';
import { trackOf } from '../../reel/document';
import { reelNow } from '../../reel/useReel';
import { clipsOf, useSelection } from './selection';

export type Place = Schemas['PlaceSchema'];

export function placeNow(at = usePlayer.getState().position): Place {
  const place = { at: Math.max(0, Math.round(at)) };
  const { selection } = useSelection.getState();
  const document = reelNow();
  if (selection.kind === 'range') {
    const { start, end, tracks } = selection;
    return { ...place, start, end, track: tracks[0] ?? null };
  }
  if (selection.kind === 'clip') {
    const track = trackOf(document, 'clips', selection.id)?.id ?? null;
    const other = clipsOf(selection).find((id) => id !== selection.id);
    return { ...place, clip: selection.id, track, ...(other && { other }) };
  }
  if (selection.kind === 'treatment') {
    const track = trackOf(document, 'treatments', selection.id)?.id ?? null;
    return { ...place, treatment: selection.id, track };
  }
  return selection.kind === 'track' ? { ...place, track: selection.id } : place;
}
