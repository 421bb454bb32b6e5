/** The pitch of a clip as it is heard; computed by the server. */
import { useEffect, useState } from 'react';
import { create } from 'zustand';
import { client, unwrap } from '../../api/client';
import type { components } from '../../api/schema';
import { useSession } from '../../reel/session';
import { useTools } from '../context';

export type HeardPitch = components['schemas']['PitchAnswer'];

/** Whether the pitch of the selected clip is shown over its wave. */
export const usePitchShown = create<{ shown: boolean; show: (shown: boolean) => void }>()(
  (set) => ({ shown: false, show: (shown) => set({ shown }) }),
);

/** Nothing while it is not wanted, or has not come. */
export function usePitch(clip: string, length: number, wanted: boolean): HeardPitch | undefined {
  const { reel } = useTools();
  const revision = useSession((s) => s.revision);
  const [found, setFound] = useState<HeardPitch | undefined>();
  useEffect(() => {
    if (!wanted) {
      setFound(undefined);
      return;
    }
    let mine = true;
    const body = { clip, start: 0, end: length };
    unwrap(client.POST('/api/reels/{id}/pitch', { params: { path: { id: reel } }, body })).then(
      (answer) => mine && setFound(answer),
      () => undefined, // The last line stays; the next change asks again.
    );
    return () => {
      mine = false;
    };
  }, [reel, revision, clip, length, wanted]);
  return found;
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
