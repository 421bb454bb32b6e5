/** Controls of values that move: shown as they are at the playhead, turned into keyframes. */
import { useMemo, useRef } from 'react';
import { usePlayer } from '../../player/player';
import type { Recording } from '../../hand/turning';
import type { Command } from '../../reel/session';
import { useTools } from '../tools/context';
import { laneOf, valueAtPlace } from './lanes';
import { useOpenLanes } from './openLanes';
import { useReel } from '../../reel/useReel';

/** The value of a lane at the playhead. */
export function useLaneValue(name: string | undefined): number | undefined {
  const { effects } = useTools();
  const position = usePlayer((s) => (name ? s.position : 0));
  const lane = useReel((d) => (name ? d : undefined));
  const found = useMemo(() => name && lane && laneOf(lane, effects, name), [name, lane, effects]);
  return found ? valueAtPlace(found, position) : undefined;
}

/**
 * What a control does to a value that moves, or whose lane is open while it plays.
 *
 * Turned while it plays, all that it did is recorded and thinned out on release; turned while
 * paused, a keyframe is put at the playhead.
 */
export function useRecording(name: string | undefined, moves: boolean): Recording {
  const { player } = useTools();
  const open = useOpenLanes((s) => name !== undefined && s.names.includes(name));
  const turned = useRef<{ at: number; value: number }[]>([]);
  return {
    note: (value: number) => {
      if (!name || !(moves || open) || !usePlayer.getState().playing) return;
      turned.current.push({ at: Math.max(0, Math.round(player.heard())), value });
    },
    kept: (value: number): Command[] | undefined => {
      const taken = turned.current;
      turned.current = [];
      if (!name) return undefined;
      if (taken.length > 1) {
        taken.push({ at: Math.max(0, Math.round(player.heard())), value });
        const rising = taken.filter((t, i) => i === 0 || t.at > taken[i - 1]!.at);
        return [{ kind: 'record_keyframes', lane: name, turned: rising }];
      }
      if (!moves) return undefined;
      const moment = { sample: Math.max(0, Math.round(usePlayer.getState().position)) };
      return [{ kind: 'put_keyframes', keys: [{ lane: name, moment, value }] }];
    },
  };
}
