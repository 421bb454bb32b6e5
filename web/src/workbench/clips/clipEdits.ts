/** What is done to the selected clips, by keys and by menu. */
import { useMemo } from 'react';
import { usePlayer } from '../../player/player';
import type { Clip, ReelDocument } from '../../reel/document';
import { atOnce } from '../../hand/gesture';
import { useSession } from '../../reel/session';
import { newId } from '../../ui/ids';
import { useTools } from '../tools/context';
import { clipsOf, several, useSelection } from '../selected/selection';

export function useClipEdits() {
  const { clock } = useTools();
  return useMemo(() => {
    const { getState: session } = useSession;
    const { getState: selected } = useSelection;
    const chosen = () => present(session().document, clipsOf(selected().selection));
    const here = () => clock.frameOfSample(usePlayer.getState().position);
    const pick = (ids: string[]) => {
      selected().select(several(ids.map((id) => ({ kind: 'clip', id }))));
    };
    return {
      any: () => chosen().length > 0,
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
        void atOnce({ kind: 'split_clips', ids, new: fresh, at: { frame: here() } }).then(
          (done) => done && pick(fresh),
        );
      },
      /** Join two selected clips, or the selected one with the one that begins at its end. */
      join: () => {
        const [first, second] = chosen();
        if (!first) return;
        const end = first.start + first.length;
        const next =
          second ?? neighbours(session().document, first.id).find((c) => c.start === end);
        if (next) void atOnce({ kind: 'join_clips', ids: [first.id, next.id] });
      },
      /** Let the sound inside the selected clips be heard so many frames later. */
      slip: (frames: number) => {
        const slips = chosen().map((clip) => ({ kind: 'slip_clip', id: clip.id, frames }));
        if (slips.length) void atOnce(slips);
      },
      /** Fit the first selected clip to the next cut, or to the next clip on its track. */
      fit: (until: 'cut' | 'gap') => {
        const [clip] = chosen();
        if (clip) void atOnce({ kind: 'fit_clip', id: clip.id, until });
      },
      /** Reset the selected clips' speed, or pitch and material as well. */
      resetSpeed: (all: boolean) => {
        const ids = chosen().map((c) => c.id);
        if (ids.length) void atOnce({ kind: 'reset_speed', ids, all });
      },
      /** Raise the selected clips that do not move; a key's worth. */
      raise: (db: number) => {
        const raised = chosen().flatMap((clip) => {
          const level = clip.gain_db ?? 0;
          if (typeof level !== 'number') return [];
          return { kind: 'set_clip', id: clip.id, gain_db: level + db };
        });
        if (raised.length) void atOnce(raised);
      },
      /** Give the other selected clips the fades of one of them. */
      copyFades: (id: string) => {
        const to = chosen()
          .map((c) => c.id)
          .filter((c) => c !== id);
        if (to.length) void atOnce({ kind: 'copy_fades', id, to });
      },
      tie: (tied: boolean) => {
        const ids = chosen().map((c) => c.id);
        if (ids.length) void atOnce({ kind: 'tie_clips', ids, tied });
      },
      /** Remove the selected clips; what follows on their tracks moves up. */
      removeWithGap: () => {
        const ids = chosen().map((c) => c.id);
        if (!ids.length) return;
        selected().select({ kind: 'none' });
        void atOnce({ kind: 'remove_clips', ids, close_gap: true });
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
