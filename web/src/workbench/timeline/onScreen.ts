/** Which media are in sight, so that they are prepared before others. */
import { useEffect } from 'react';
import { client } from '../../api/client';
import type { ReelDocument } from '../../reel/document';
import { useTools } from '../tools/context';
import { useView } from '../axis/view';
import { useReel } from '../../reel/useReel';

/** Ids of the media of all clips that touch a stretch of the reel, in samples. */
export function mediaInSight(document: ReelDocument, from: number, to: number): string[] {
  const clips = [
    ...(document.picture?.clips ?? []),
    ...(document.tracks ?? []).flatMap((t) => t.clips ?? []),
  ];
  const seen = clips.filter((c) => c.start < to && c.start + c.length > from);
  return [...new Set(seen.map((c) => c.media))].sort();
}

/** Ask for what is in sight and still waits, whenever that changes. */
export function useInSightFirst() {
  const { media } = useTools();
  const document = useReel((d) => d);
  const { start, scale, width } = useView();
  const waiting = mediaInSight(document, start, start + scale * width)
    .filter((id) => media.get(id)?.state === 'waiting')
    .join();
  useEffect(() => {
    if (waiting) void client.POST('/api/media/first', { body: { media: waiting.split(',') } });
  }, [waiting]);
}
