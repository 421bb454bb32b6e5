/** What has been found in the reel's media: beats and onsets, as samples of the reel. */
import { replaceEqualDeep, useQuery } from '@tanstack/react-query';
import { useEffect, useMemo } from 'react';
import { create } from 'zustand';
import { client, unwrap, type Schemas } from '../../api/client';
import { useTools } from './context';
import { NOTHING, type ReelDocument } from '../../reel/document';
import { useSession } from '../../reel/session';

interface Shown {
  /** Whether beats are drawn on the ruler and snapped to. */
  beats: boolean;
  toggle: () => void;
}

const KEY = 'bathyphon.beats';

export const useBeatsShown = create<Shown>()((set, get) => ({
  beats: localStorage.getItem(KEY) === 'shown',
  toggle: () => {
    const beats = !get().beats;
    localStorage.setItem(KEY, beats ? 'shown' : '');
    set({ beats });
  },
}));

const NONE: number[] = [];

let last: { tracks: unknown; media: unknown; places: string } | undefined;

/** What the answer depends on: most edits leave it as it is. Worked out once for a document. */
function placesOf({ tracks, media }: ReelDocument): string {
  if (last?.tracks === tracks && last?.media === media) return last!.places;
  const places = JSON.stringify([
    (media ?? []).map((m) => [m.id, m.beats]),
    (tracks ?? []).flatMap((t) =>
      (t.clips ?? []).map((c) => [c.id, c.media, c.start, c.length, c.source_start, c.enabled]),
    ),
  ]);
  last = { tracks, media, places };
  return places;
}

interface Found {
  found: Schemas['Found'] | undefined;
  /** All beats of the reel, rising. */
  beats: number[];
}

const useAnswer = create<Found>()(() => ({ found: undefined, beats: NONE }));

/** Keep what is known of the media in step with the reel; one does it for all. */
export function useAskingFound() {
  const { reel, media } = useTools();
  // What a hand is doing has not been found anything in yet.
  const places = useSession((s) => placesOf(s.committed.document ?? NOTHING));
  const heard = useMemo(
    () => [...media.values()].filter((m) => m.info.sound?.onsets).length,
    [media],
  );
  const { data } = useQuery({
    queryKey: ['found', reel, places, heard],
    queryFn: () => unwrap(client.GET('/api/reels/{id}/found', { params: { path: { id: reel } } })),
    placeholderData: (before) => before,
    staleTime: Infinity,
  });
  useEffect(() => {
    // What says the same stays the same: nobody is drawn anew for it.
    const before = useAnswer.getState();
    const found = data && replaceEqualDeep(before.found, data);
    if (found === before.found) return;
    const beats = [...new Set(Object.values(found?.beats ?? {}).flat())].sort((a, b) => a - b);
    useAnswer.setState({ found, beats: replaceEqualDeep(before.beats, beats) });
  }, [data]);
}

export function useFound<T>(select: (found: Schemas['Found'] | undefined) => T): T {
  return useAnswer((s) => select(s.found));
}

export function useBeats(): number[] {
  return useAnswer((s) => s.beats);
}

/** All beats at this moment, for what is done rather than drawn. */
export function beatsNow(): number[] {
  return useAnswer.getState().beats;
}
