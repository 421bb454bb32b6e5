/** What has been found in the reel's media: beats and onsets, as samples of the reel. */
import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { create } from 'zustand';
import { client, unwrap } from '../api/client';
import { useTools } from './context';
import { useReel } from '../reel/useReel';

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

export function useFound() {
  const { reel, media } = useTools();
  const tracks = useReel((d) => d.tracks);
  const list = useReel((d) => d.media);
  // What the answer depends on: most edits leave it as it is.
  const places = useMemo(
    () =>
      JSON.stringify([
        (list ?? []).map((m) => [m.id, m.beats]),
        (tracks ?? []).flatMap((t) =>
          (t.clips ?? []).map((c) => [c.id, c.media, c.start, c.length, c.source_start, c.enabled]),
        ),
      ]),
    [list, tracks],
  );
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
  return data;
}

/** All beats of the reel, rising. */
export function useBeats(): number[] {
  const found = useFound();
  return useMemo(() => {
    if (!found) return NONE;
    return [...new Set(Object.values(found.beats).flat())].sort((a, b) => a - b);
  }, [found]);
}
