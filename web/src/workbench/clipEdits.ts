/** What is done to the selected clips, by keys and by menu. */
import { notifications } from '@mantine/notifications';
import { useMemo } from 'react';
import { usePlayer } from '../player/player';
import { NOTHING, trackOf, type Clip, type ReelDocument } from '../reel/document';
import { useSession } from '../reel/session';
import { offerToBring } from './timeline/bringAlong';
import { newId } from '../ui/ids';
import { useTools } from './context';
import { copiedClips, keepClips, type CopiedClip } from './copied';
import { clipsOf, useSelection } from './selection';

export function useClipEdits() {
  const { clock } = useTools();
  return useMemo(() => {
    const { getState: session } = useSession;
    const { getState: selected } = useSelection;
    const chosen = () => present(session().document, clipsOf(selected().selection));
    const here = () => clock.frameOfSample(usePlayer.getState().position);
    const pick = (ids: string[]) => {
      const [id, ...also] = ids;
      if (id) selected().select({ kind: 'clip', id, also });
    };
    const copyTo = async (clips: Clip[], at: object) => {
      const fresh = clips.map(() => newId('c'));
      const ids = clips.map((c) => c.id);
      if (await session().edit({ kind: 'copy_clips', ids, new: fresh, at })) pick(fresh);
    };
    /** Clips of another reel, or that are no longer there: their media come along. */
    const pasteElsewhere = (copied: CopiedClip[]) => {
      if (!copied.length) return;
      const other = copied.find((c) => c.rate !== clock.sampleRate);
      if (other) {
        const [from, here] = [other.rate / 1000, clock.sampleRate / 1000];
        const message = `These clips come from a reel at ${from} kHz; paste them into one at the same rate, not at ${here} kHz.`;
        notifications.show({ message });
        return;
      }
      const { id: reel, document } = session();
      const listed = new Set(document?.media?.map((m) => m.id));
      const tracks = new Set(document?.tracks?.map((t) => t.id));
      // What has been taken away here comes back to its own track.
      const own = (c: CopiedClip) => c.reel === reel && tracks.has(c.track);
      const made = { id: newId('t'), name: 'Pasted' };
      const media = new Map(copied.map((c) => [c.clip.media, c.path]));
      const first = Math.min(...copied.map((c) => c.clip.start));
      const at = clock.sampleOfFrame(here());
      const fresh = copied.map(() => newId('c'));
      void session()
        .edit([
          ...[...media]
            .filter(([id]) => !listed.has(id))
            .map(([id, path]) => ({ kind: 'add_medium', medium: { id, path } })),
          ...(copied.every(own) ? [] : [{ kind: 'add_track', track: made }]),
          ...copied.map((c, i) => ({
            kind: 'add_clip',
            track: own(c) ? c.track : made.id,
            clip: { ...c.clip, id: fresh[i], start: at + c.clip.start - first, tie: undefined },
          })),
        ])
        .then((done) => done && pick(fresh));
    };
    return {
      any: () => chosen().length > 0,
      nudge: (frames: number) => {
        const ids = chosen().map((c) => c.id);
        const before = session().document;
        if (!ids.length || !before) return;
        void session()
          .edit({ kind: 'move_clips', ids, frames })
          .then((done) => done && offerToBring(before, ids, clock));
      },
      /** Split the selected clips at the playhead; without a selection, all that lie under it. */
      split: () => {
        const at = clock.sampleOfFrame(here());
        const own = chosen();
        const clips = (own.length ? own : all(session().document)).filter(
          (c) => c.start < at && at < c.start + c.length,
        );
        if (!clips.length) return;
        const ids = clips.map((c) => c.id);
        const fresh = clips.map(() => newId('c'));
        void session()
          .edit({ kind: 'split_clips', ids, new: fresh, at: { frame: here() } })
          .then((done) => done && pick(fresh));
      },
      /** Join two selected clips, or the selected one with the one that begins at its end. */
      join: () => {
        const [first, second] = chosen();
        if (!first) return;
        const end = first.start + first.length;
        const next =
          second ?? neighbours(session().document, first.id).find((c) => c.start === end);
        if (next) void session().edit({ kind: 'join_clips', ids: [first.id, next.id] });
      },
      all: () => pick(all(session().document).map((c) => c.id)),
      /** Slip the sound inside the selected clips, each by whole frames. */
      slip: (frames: number) => {
        const samples = frames * Math.round(clock.sampleRate / clock.framesPerSecond);
        const slips = chosen().map((clip) => ({ kind: 'slip_clip', id: clip.id, samples }));
        if (slips.length) void session().edit(slips);
      },
      /** Fit the first selected clip to the next cut, or to the next clip on its track. */
      fit: (until: 'cut' | 'gap') => {
        const [clip] = chosen();
        if (clip) void session().edit({ kind: 'fit_clip', id: clip.id, until });
      },
      /** Reset the selected clips' speed, or pitch and material as well. */
      resetSpeed: (all: boolean) => {
        const ids = chosen().map((c) => c.id);
        if (ids.length) void session().edit({ kind: 'reset_speed', ids, all });
      },
      /** Raise the selected clips that do not move; a key's worth. */
      raise: (db: number) => {
        const raised = chosen().flatMap((clip) => {
          const level = clip.gain_db ?? 0;
          if (typeof level !== 'number') return [];
          return { kind: 'set_clip', id: clip.id, gain_db: level + db };
        });
        if (raised.length) void session().edit(raised);
      },
      duplicate: () => {
        const clips = chosen();
        if (!clips.length) return;
        const end = Math.max(...clips.map((c) => c.start + c.length));
        void copyTo(clips, { sample: end });
      },
      copy: () => {
        const paths = new Map(session().document?.media?.map((m) => [m.id, m.path]));
        keepClips(
          chosen().map((clip) => ({
            clip,
            reel: session().id,
            rate: clock.sampleRate,
            track: trackOf(session().document ?? NOTHING, 'clips', clip.id)?.id ?? '',
            path: paths.get(clip.media) ?? '',
          })),
        );
      },
      paste: () => {
        const copied = copiedClips();
        const ids = copied.filter((c) => c.reel === session().id).map((c) => c.clip.id);
        const clips = present(session().document, ids);
        if (clips.length) void copyTo(clips, { frame: here() });
        else pasteElsewhere(copied);
      },
      /** Give the other selected clips the fades of one of them. */
      copyFades: (id: string) => {
        const to = chosen()
          .map((c) => c.id)
          .filter((c) => c !== id);
        if (to.length) void session().edit({ kind: 'copy_fades', id, to });
      },
      tie: (tied: boolean) => {
        const ids = chosen().map((c) => c.id);
        if (ids.length) void session().edit({ kind: 'tie_clips', ids, tied });
      },
      remove: (closeGap: boolean) => {
        const ids = chosen().map((c) => c.id);
        if (!ids.length) return;
        selected().select({ kind: 'none' });
        void session().edit({ kind: 'remove_clips', ids, close_gap: closeGap });
      },
    };
  }, [clock]);
}

function all(document: ReelDocument | undefined): Clip[] {
  return (document?.tracks ?? []).flatMap((t) => t.clips ?? []);
}

function present(document: ReelDocument | undefined, ids: string[]): Clip[] {
  const clips = new Map(all(document).map((c) => [c.id, c]));
  return ids.flatMap((id) => clips.get(id) ?? []);
}

function neighbours(document: ReelDocument | undefined, id: string): Clip[] {
  return (document?.tracks ?? []).find((t) => t.clips?.some((c) => c.id === id))?.clips ?? [];
}
