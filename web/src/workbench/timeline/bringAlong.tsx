/** After clips have been moved: treatments that lay over them may be brought along. */
import { Button } from '@mantine/core';
import { notifications } from '@mantine/notifications';
import type { Clip, ReelDocument } from '../../reel/document';
import { useSession } from '../../reel/session';
import type { Clock } from '../../time/clock';

const OFFERED_MS = 12000;

/**
 * Offer to move the treatments that lay wholly over clips before these were moved.
 *
 * @param before The document before the move.
 * @param ids The clips that have been moved.
 */
export function offerToBring(before: ReelDocument, ids: string[], clock: Clock) {
  const after = useSession.getState().document;
  if (!after) return;
  const [first] = ids;
  const old = places(before).get(first ?? '');
  const now = places(after).get(first ?? '');
  if (!old || !now || (old.clip.start === now.clip.start && old.track === now.track)) return;
  const moved = ids.flatMap((id) => places(before).get(id) ?? []);
  const over = (before.tracks ?? []).flatMap((track) =>
    (track.treatments ?? []).filter((t) =>
      moved.some(
        ({ clip, track: own }) =>
          own === track.id &&
          t.start >= clip.start &&
          t.start + t.length <= clip.start + clip.length,
      ),
    ),
  );
  if (over.length === 0) return;
  const whole = clock.frameOfSample(now.clip.start) - clock.frameOfSample(old.clip.start);
  const onFrames = [old, now].every(
    ({ clip }) => clock.sampleOfFrame(clock.frameOfSample(clip.start)) === clip.start,
  );
  const by = onFrames ? { frames: whole } : { samples: now.clip.start - old.clip.start };
  const name =
    over.length === 1 ? `“${over[0]!.name || 'a treatment'}”` : `${over.length} treatments`;
  const id = `bring-${first}`;
  notifications.hide(id);
  notifications.show({
    id,
    autoClose: OFFERED_MS,
    title: `${name} stayed where ${over.length === 1 ? 'it was' : 'they were'}`,
    message: (
      <Button
        size="compact-xs"
        onClick={() => {
          notifications.hide(id);
          void useSession.getState().edit({
            kind: 'bring_along',
            ids: over.map((t) => t.id),
            ...by,
            ...(old.track === now.track ? {} : { track: now.track }),
          });
        }}
      >
        Bring {over.length === 1 ? 'it' : 'them'} along
      </Button>
    ),
  });
}

function places(document: ReelDocument): Map<string, { clip: Clip; track: string }> {
  return new Map(
    (document.tracks ?? []).flatMap((track) =>
      (track.clips ?? []).map((clip) => [clip.id, { clip, track: track.id }] as const),
    ),
  );
}
