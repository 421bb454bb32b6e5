/** The pitch of a clip as it is heard; computed by the server. */
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { create } from 'zustand';
import { client, unwrap } from '../../api/client';
import type { components } from '../../api/schema';
import type { ReelDocument } from '../../reel/document';
import { useSession } from '../../reel/session';
import { useTools } from '../tools/context';

/** Lines that have been seen are kept for so long. */
const KEPT_MS = 60_000;

export type HeardPitch = components['schemas']['PitchAnswer'];

/** Whether the pitch of the selected clip is shown over its wave. */
export const usePitchShown = create<{ shown: boolean; show: (shown: boolean) => void }>()(
  (set) => ({ shown: false, show: (shown) => set({ shown }) }),
);

/** Nothing while it is not wanted, or has not come. */
export function usePitch(clip: string, length: number, wanted: boolean): HeardPitch | undefined {
  const { reel } = useTools();
  // What it is a clip of, and how it plays it, as the server knows it; where it lies is no matter.
  const plays = useSession((s) => playsText(s.committed.document, clip));
  const { data } = useQuery({
    queryKey: ['pitch', reel, clip, length, plays],
    queryFn: () => {
      const body = { clip, start: 0, end: length };
      return unwrap(client.POST('/api/reels/{id}/pitch', { params: { path: { id: reel } }, body }));
    },
    enabled: wanted,
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    gcTime: KEPT_MS,
  });
  return wanted ? data : undefined;
}

function playsText(document: ReelDocument | undefined, id: string): string {
  const clip = (document?.tracks ?? []).flatMap((t) => t.clips ?? []).find((c) => c.id === id);
  return JSON.stringify({ ...clip, start: 0 });
}

/** A line through the notes, broken where there is none, in a box. */
export function pitchPath(
  pitch: HeardPitch,
  x: (sample: number) => number,
  height: number,
): string {
  const low = pitch.low_note - 1;
  const span = Math.max(4, pitch.high_note + 1 - low);
  let drawing = false;
  let path = '';
  for (const [t, note] of pitch.points) {
    if (note === null || t === null || note === undefined || t === undefined) {
      drawing = false;
      continue;
    }
    const share = Math.min(1, Math.max(0, (note - low) / span));
    path += `${drawing ? 'L' : 'M'}${x(t).toFixed(1)} ${((1 - share) * height).toFixed(1)}`;
    drawing = true;
  }
  return path;
}
