/** Selected keyframes stay selected where an edit, an undo or another window has moved them. */
import { useEffect } from 'react';
import type { ReelDocument } from '../../reel/document';
import { useSession } from '../../reel/session';
import { useTools } from '../tools/context';
import { keysOf, useSelection } from '../selected/selection';
import type { Key } from './keys';
import { laneOf } from './lanes';

/** The places of a lane's keyframes, from the first to the last. */
type Places = (lane: string) => number[];

/** Where keys have gone: those that are no longer there, to those that are new, in their order. */
export function followed(keys: Key[], before: Places, after: Places): Key[] {
  const lanes = new Set(keys.map((k) => k.lane));
  const moved = new Map<string, number>();
  for (const lane of lanes) {
    const [was, is] = [before(lane), after(lane)];
    const gone = was.filter((at) => !is.includes(at));
    const fresh = is.filter((at) => !was.includes(at));
    if (gone.length === fresh.length)
      gone.forEach((at, i) => moved.set(`${lane}@${at}`, fresh[i]!));
  }
  if (!moved.size) return keys;
  return keys.map((k) => ({ ...k, at: moved.get(`${k.lane}@${k.at}`) ?? k.at }));
}

export function useFollowedKeys() {
  const { effects } = useTools();
  useEffect(
    () =>
      useSession.subscribe(({ committed: { document: now } }, { committed: { document: was } }) => {
        if (now === was || !now || !was) return;
        const { selection, select } = useSelection.getState();
        const keys = keysOf(selection);
        if (!keys.length) return;
        const places = (document: ReelDocument) => (lane: string) =>
          (laneOf(document, effects, lane)?.points ?? []).map((p) => p.at);
        const next = followed(keys, places(was), places(now));
        if (next !== keys) select({ kind: 'keys', keys: next });
      }),
    [effects],
  );
}
