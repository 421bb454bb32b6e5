/** A sound that is dragged to a track, or below all tracks onto one of its own. */
import type { PointerEvent } from 'react';
import { drag } from '../../hand/pointer';
import type { Command } from '../../reel/session';
import type { Clock } from '../../time/clock';
import { newId } from '../../ui/ids';
import { laneUnder } from './laneUnder';
import { useReadout } from './readout';
import { snap } from './snap';
import { targetsNow } from './targets';
import { HEADS, useView } from './view';

export type On = { track: string } | { new_track: string };

interface Ways {
  /** It is being dragged in earnest. */
  meant?: () => void;
  /** The edits that lay it somewhere; none as long as they are not known. */
  commands: (clip: string, at: { sample: number }, on: On) => readonly Command[];
  laid: (clip: string) => void;
}

const MOVED_PX = 4;

export function dragToTrack(e: PointerEvent<Element>, clock: Clock, ways: Ways) {
  e.preventDefault();
  const { show } = useReadout.getState();
  const [clip, track] = [newId('c'), newId('t')];
  const targets = targetsNow(clock);
  const from = { x: e.clientX, y: e.clientY };
  let laid = false;
  let meant = false;
  drag(e, {
    moved: (m) => {
      if (!meant && Math.hypot(m.clientX - from.x, m.clientY - from.y) < MOVED_PX) return undefined;
      if (!meant) ways.meant?.();
      meant = true;
      const place = placeUnder(m);
      const { scale } = useView.getState();
      const to = place && snap(Math.max(0, place.sample), targets, clock, scale, m.altKey);
      // Its own track is there only in the draft.
      const there = place?.track === track ? undefined : place?.track;
      const on = there ? { track: there } : { new_track: track };
      const commands = to ? ways.commands(clip, { sample: to.sample }, on) : [];
      laid = commands.length > 0;
      const where = there ? '' : ' · on a track of its own';
      show(
        to && laid
          ? { sample: to.sample, to: to.to, text: `${clock.timecode(to.sample)}${where}` }
          : undefined,
      );
      return commands;
    },
    over: (kept) => {
      show(undefined);
      if (kept && laid) ways.laid(clip);
    },
  });
}

/** Where on the timeline a pointer is; on no track if it is below all of them. */
function placeUnder(m: globalThis.PointerEvent) {
  const lane = laneUnder(m);
  const tracks = window.document
    .elementsFromPoint(m.clientX, m.clientY)
    .find((el) => el.classList.contains('tracks'));
  if (!lane && !tracks) return undefined;
  const { start, scale } = useView.getState();
  const left = lane?.getBoundingClientRect().left ?? tracks!.getBoundingClientRect().left + HEADS;
  return { track: lane?.dataset['track'], sample: start + (m.clientX - left) * scale };
}
