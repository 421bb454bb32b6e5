/** Hearing only some tracks, for this session: nothing of it is kept in the reel or exported. */
import { create } from 'zustand';
import { WITHOUT_ALL, type Against } from '../../player/against';
import { usePlayer, type Player } from '../../player/player';
import type { ReelDocument } from '../../reel/document';
import { reelNow } from '../../reel/useReel';
import { storedList, storeList } from '../../ui/stored';

const keyOf = (reel: string) => `bathyphon.only.${reel}`;

interface Only {
  reel: string;
  tracks: string[];
}

export const useOnly = create<Only>()(() => ({ reel: '', tracks: [] }));

/** What was heard alone when this window was left; it is not heard so until it is asked for. */
export function loadOnly(reel: string) {
  useOnly.setState({ reel, tracks: storedList<string>(keyOf(reel), sessionStorage) });
}

/** Whether only some tracks are heard just now. */
export function isOnly(against: Against): boolean {
  return against.of.startsWith('only-tracks:');
}

/** Add a track to those that are heard alone, or take it out; with none left all are heard. */
export function turnOnly(player: Player, track: string) {
  const { reel, tracks } = useOnly.getState();
  const on = isOnly(usePlayer.getState().against) && usePlayer.getState().side === 'other';
  const now = on ? tracks : [];
  const next = now.includes(track) ? now.filter((id) => id !== track) : [...now, track];
  useOnly.setState({ tracks: next });
  storeList(keyOf(reel), next, sessionStorage);
  hearOnly(player, next);
}

/** The same tracks as the last time in this session. */
export function hearOnly(player: Player, tracks: readonly string[]) {
  const against = onlyTracks(reelNow(), tracks);
  player.setAgainst(against ?? WITHOUT_ALL);
  player.setSide(against ? 'other' : 'treated');
}

/** The reel with only some of its tracks; nothing if none of them is there. */
export function onlyTracks(reel: ReelDocument, ids: readonly string[]): Against | undefined {
  const all = reel.tracks ?? [];
  const heard = all.filter((t) => ids.includes(t.id));
  if (heard.length === 0) return undefined;
  const names = heard.map((t) => t.name || t.id);
  const commands = all.map(({ id }) => ({
    kind: 'set_track',
    id,
    solo: ids.includes(id),
    ...(ids.includes(id) && { mute: false }),
  }));
  return {
    label: `Only ${names.length > 3 ? `${names.length} tracks` : listed(names)}`,
    state: { commands },
    of: `only-tracks:${ids.join(' ')}`,
    plain: true,
  };
}

/** “A, B and C”. */
function listed(names: readonly string[]): string {
  const last = names.at(-1)!;
  return names.length > 1 ? `${names.slice(0, -1).join(', ')} and ${last}` : last;
}
