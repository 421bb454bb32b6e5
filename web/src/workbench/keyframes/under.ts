/** The open lanes of a track and of what lies on it, in the order they were opened. */
import { useMemo } from 'react';
import { useSession } from '../../reel/session';
import { useTools } from '../tools/context';
import { useBox } from './box';
import { laneOf, type Lane } from './lanes';
import { useOpenLanes } from './openLanes';
import { useReel } from '../../reel/useReel';

const NO_LANES: Lane[] = [];

/** @param track A track's id; none for the mix's lanes. */
export function useLanesUnder(track: string | undefined): Lane[] {
  const { effects } = useTools();
  const names = useOpenLanes((s) => s.names);
  // Without a lane there is nothing to look at.
  const shown = useReel((d) => (names.length ? d : undefined));
  const committed = useSession((s) => (names.length ? s.committed.document : undefined));
  // Keyframes that are dragged are drawn from where they were, shifted by the hand itself.
  const shifting = useBox((s) => s.shift !== undefined);
  const document = shifting && committed ? committed : shown;
  return useMemo(
    () =>
      document
        ? names
            .map((name) => laneOf(document, effects, name))
            .filter((lane) => lane !== undefined)
            .filter((lane) => lane.track === track)
        : NO_LANES,
    [names, document, effects, track],
  );
}
