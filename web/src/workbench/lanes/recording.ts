/** Controls of values that move: shown as they are at the playhead, turned into keyframes. */
import { useRef } from 'react';
import { usePlayer } from '../../player/player';
import { useSession } from '../../reel/session';
import { useWorkbench } from '../context';
import { laneOf, valueAtPlace } from './lanes';
import { useOpenLanes } from './openLanes';

/** The value of a lane at the playhead. */
export function useLaneValue(name: string | undefined): number | undefined {
  const { document, effects } = useWorkbench();
  const position = usePlayer((s) => (name ? s.position : 0));
  const lane = name ? laneOf(document, effects, name) : undefined;
  return lane && valueAtPlace(lane, position);
}

/**
 * What a control does to a value that moves, or whose lane is open while it plays.
 *
 * Turned while it plays, all that it did is recorded and thinned out on release; turned while
 * paused, a keyframe is put at the playhead.
 */
export function useRecording(name: string | undefined, moves: boolean) {
  const { player } = useWorkbench();
  const edit = useSession((s) => s.edit);
  const open = useOpenLanes((s) => name !== undefined && s.names.includes(name));
  const turned = useRef<{ at: number; value: number }[]>([]);
  return {
    note: (value: number) => {
      if (!name || !(moves || open) || !usePlayer.getState().playing) return;
      turned.current.push({ at: Math.max(0, Math.round(player.heard())), value });
    },
    /** Whether the release has been dealt with. */
    finish: (value: number): boolean => {
      const taken = turned.current;
      turned.current = [];
      if (!name) return false;
      if (taken.length > 1) {
        taken.push({ at: Math.max(0, Math.round(player.heard())), value });
        const rising = taken.filter((t, i) => i === 0 || t.at > taken[i - 1]!.at);
        void edit({ kind: 'record_keyframes', lane: name, turned: rising });
        return true;
      }
      if (!moves) return false;
      const moment = { sample: Math.max(0, Math.round(usePlayer.getState().position)) };
      void edit({ kind: 'put_keyframes', keys: [{ lane: name, moment, value }] });
      return true;
    },
  };
}
