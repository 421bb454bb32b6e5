/** Edits of the selected keyframes; the selection goes with them. */
import { useMemo } from 'react';
import { usePlayer } from '../../player/player';
import { atOnce } from '../../hand/gesture';
import type { ReelDocument } from '../../reel/document';
import { useSession } from '../../reel/session';
import { useTools } from '../tools/context';
import { keysOf, useSelection } from '../selected/selection';
import { copiedKeys, keepKeys } from './copied';
import { movedByFrames, type Key, type Shift } from './keys';
import { laneOf, shareIn, valueIn, type Lane } from './lanes';
import { useOpenLanes } from './openLanes';

export function useKeyEdits() {
  const { clock, effects, player } = useTools();
  return useMemo(() => {
    const session = () => useSession.getState();
    const select = (keys: Key[]) =>
      useSelection.getState().select(keys.length ? { kind: 'keys', keys } : { kind: 'none' });
    const chosen = () => keysOf(useSelection.getState().selection);
    const lane = (name: string): Lane | undefined =>
      session().document && laneOf(session().document as ReelDocument, effects, name);
    const here = () =>
      usePlayer.getState().playing ? player.heard() : usePlayer.getState().position;

    /** Where keys lie after they have gone to other samples of the reel. */
    const follow = (keys: Key[], to: (place: number) => number): Key[] =>
      keys.map((k) => {
        const origin = lane(k.lane)?.origin ?? 0;
        return { ...k, at: to(origin + k.at) - origin };
      });

    const gone = (keys: Key[], by: Shift) =>
      follow(keys, (place) =>
        by.frames === undefined
          ? place + (by.samples ?? 0)
          : movedByFrames(clock, place, by.frames),
      );

    const inside = (start: number, end: number) =>
      useOpenLanes.getState().names.flatMap((name) => {
        const open = lane(name);
        return (open?.points ?? [])
          .filter((p) => start <= open!.origin + p.at && open!.origin + p.at <= end)
          .map((p) => ({ lane: name, at: p.at }));
      });

    return {
      any: () => chosen().length > 0,
      countWithin: (start: number, end: number) => inside(start, end).length,
      hasCopied: () => copiedKeys().length > 0,
      /** Move keys; resolves when the document has followed. */
      move: async (keys: Key[], by: Shift) => {
        const after = gone(keys, by);
        if (await atOnce({ kind: 'move_keyframes', keys, ...by })) select(after);
      },
      /** Keys have been moved: they stay selected. */
      followed: (keys: Key[], by: Shift) => select(gone(keys, by)),
      nudge: (frames: number) => {
        const keys = chosen();
        const after = follow(keys, (place) => movedByFrames(clock, place, frames));
        void atOnce({ kind: 'move_keyframes', keys, frames }).then((done) => done && select(after));
      },
      raise: (share: number) => void atOnce({ kind: 'move_keyframes', keys: chosen(), share }),
      remove: (keys = chosen()) => {
        useSelection.getState().select({ kind: 'none' });
        void atOnce({ kind: 'remove_keyframes', keys });
      },
      set: (values: Record<string, unknown>, keys = chosen()) =>
        atOnce({ kind: 'set_keyframes', keys, ...values }),
      change: (kind: string, values: Record<string, unknown> = {}) =>
        atOnce({ kind, keys: chosen(), ...values }),
      /** All keyframes of the lanes that have a selected one, or of the lane in hand. */
      all: () => {
        const names = new Set(chosen().map((k) => k.lane));
        const { inHand } = useOpenLanes.getState();
        if (!names.size && inHand) names.add(inHand);
        select(
          [...names].flatMap((name) =>
            (lane(name)?.points ?? []).map((p) => ({ lane: name, at: p.at })),
          ),
        );
      },
      /** All keyframes within a stretch of the reel, in every open lane. */
      within: (start: number, end: number) => {
        const found = inside(start, end);
        if (found.length === 0) return false;
        select(found);
        return true;
      },
      /** To the keyframe before or after the selected one, or the playhead; it goes there too. */
      walk: (by: 1 | -1) => {
        const own = chosen()[0];
        const { inHand, names } = useOpenLanes.getState();
        const open = lane(own?.lane ?? inHand ?? names[0] ?? '');
        if (!open) return false;
        const at = own ? own.at : here() - open.origin;
        const next =
          by > 0 ? open.points.find((p) => p.at > at) : open.points.findLast((p) => p.at < at);
        if (!next) return false;
        player.seek(Math.max(0, open.origin + next.at));
        select([{ lane: open.name, at: next.at }]);
        return true;
      },
      /** A keyframe at the playhead, in the lane in hand or else in every open one. */
      put: () => {
        const { inHand, names } = useOpenLanes.getState();
        const lanes = (inHand ? [inHand] : names).filter((name) => lane(name));
        if (!lanes.length) return false;
        const at = here();
        void atOnce({
          kind: 'put_keyframes',
          keys: lanes.map((name) => ({ lane: name, moment: { sample: at } })),
        }).then((done) => {
          if (done)
            select(lanes.map((name) => ({ lane: name, at: at - (lane(name)?.origin ?? 0) })));
        });
        return true;
      },
      copy: () => {
        const keys = chosen();
        const found = keys.flatMap((k) => {
          const from = lane(k.lane);
          const point = from?.points.find((p) => p.at === k.at);
          if (!from || !point) return [];
          return {
            lane: k.lane,
            place: from.origin + k.at,
            value: point.value,
            share: shareIn(from, point.value),
            unit: from.parameter.unit,
            ease: point.ease ?? 'linear',
            bend: point.bend ?? 0,
            soft: point.soft ?? 0,
          };
        });
        keepKeys(found);
      },
      /** Paste at the playhead: into the lanes they came from, or those of one into that in hand. */
      paste: () => {
        const copied = copiedKeys();
        if (!copied.length) return false;
        const first = Math.min(...copied.map((k) => k.place));
        const from = new Set(copied.map((k) => k.lane));
        const { inHand } = useOpenLanes.getState();
        const into = from.size === 1 && inHand && lane(inHand) ? inHand : undefined;
        const at = here();
        const keys = copied.flatMap((k) => {
          const target = lane(into ?? k.lane);
          if (!target) return [];
          const same = target.parameter.unit === k.unit;
          return {
            lane: target.name,
            moment: { sample: Math.max(0, at + k.place - first) },
            value: same ? k.value : valueIn(target, k.share),
            ease: k.ease,
            bend: k.bend,
            soft: k.soft,
          };
        });
        if (!keys.length) return false;
        void atOnce({ kind: 'put_keyframes', keys }).then((done) => {
          if (done)
            select(
              keys.map((k) => ({
                lane: k.lane,
                at: k.moment.sample - (lane(k.lane)?.origin ?? 0),
              })),
            );
        });
        return true;
      },
    };
  }, [clock, effects, player]);
}
