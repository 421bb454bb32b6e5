/** The open lanes of a track and of what lies on it, in the order they were opened. */
import { replaceEqualDeep } from '@tanstack/react-query';
import { useMemo } from 'react';
import type { EffectTable } from '../../api/client';
import type { ReelDocument } from '../../reel/document';
import { useSession } from '../../reel/session';
import { useTools } from '../tools/context';
import { useBox } from './box';
import { laneOf, type Lane } from './lanes';
import { useOpenLanes } from './openLanes';

const NO_LANES: Lane[] = [];

/** @param track A track's id; none for the mix's lanes. */
export function useLanesUnder(track: string | undefined): Lane[] {
  const { effects } = useTools();
  const names = useOpenLanes((s) => s.names);
  // Keyframes that are dragged are drawn from where they were, shifted by the hand itself.
  const shifting = useBox((s) => s.shift !== undefined);
  const find = useMemo(() => finder(names, effects, track), [names, effects, track]);
  return useSession((s) => find((shifting && s.committed.document) || s.document));
}

/**
 * Finds lanes in one document after another: the same objects as before where nothing of them has
 * changed, so that they stay drawn as they are.
 */
function finder(names: string[], effects: EffectTable[], track: string | undefined) {
  let seen: ReelDocument | undefined;
  let found = NO_LANES;
  return (document: ReelDocument | undefined): Lane[] => {
    // Without a lane there is nothing to look at.
    if (!document || names.length === 0) return NO_LANES;
    if (document === seen) return found;
    const lanes = names
      .map((name) => laneOf(document, effects, name))
      .filter((lane) => lane !== undefined)
      .filter((lane) => lane.track === track);
    found = lanes.length > 0 ? replaceEqualDeep(found, lanes) : NO_LANES;
    seen = document;
    return found;
  };
}
