/** The open lanes of a track and of what lies on it, in the order they were opened. */
import { useMemo } from 'react';
import { useWorkbench } from '../context';
import { laneOf, type Lane } from './lanes';
import { useOpenLanes } from './openLanes';

/** @param track A track's id; none for the mix's lanes. */
export function useLanesUnder(track: string | undefined): Lane[] {
  const { document, effects } = useWorkbench();
  const names = useOpenLanes((s) => s.names);
  return useMemo(
    () =>
      names
        .map((name) => laneOf(document, effects, name))
        .filter((lane) => lane !== undefined)
        .filter((lane) => lane.track === track),
    [names, document, effects, track],
  );
}
