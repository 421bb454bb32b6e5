import type { ParameterTable } from '../../api/client';
import { firstValue, type Movable } from '../../reel/document';
import { useTurning } from '../../hand/turning';
import type { DrawnEffect } from '../../hand/gesture';
import type { Command } from '../../reel/session';
import { LaneButton } from '../keyframes/LaneButton';
import { useLaneValue, useRecording } from '../keyframes/recording';
import type { Known } from '../../typed/values';
import { ValueRow } from './ValueRow';

interface Props {
  parameter: ParameterTable;
  value: Movable;
  /** It follows another parameter until it is set. */
  unset?: boolean;
  /** The edits that setting it to a value stands for. */
  edits: (value: number) => readonly Command[];
  /** The effect whose drawing shows it. */
  drawing?: DrawnEffect | undefined;
  reset: () => void;
  /** Other units that a time may be typed in. */
  units?: Known | undefined;
  /** The least that can be typed, where the slider ends sooner. */
  lowest?: number;
  /** Name of the value's lane, if it can move. */
  lane?: string | undefined;
}

/** One parameter of the reel: what a hand does with it is heard at once. */
export function Control(props: Props) {
  const { parameter, value, unset, edits, drawing, reset, units, lane, lowest } = props;
  const moves = typeof value !== 'number';
  const now = useLaneValue(moves ? lane : undefined);
  const stored = now ?? firstValue(value, parameter.default ?? parameter.low);
  const recording = useRecording(lane, moves);
  const { turning, turn, finish, settle, giveUp } = useTurning({
    stored,
    unset,
    drawing,
    edits,
    recording,
  });
  return (
    <ValueRow
      parameter={parameter}
      shown={turning ?? stored}
      turn={turn}
      settle={settle}
      giveUp={giveUp}
      keep={finish}
      reset={reset}
      units={units}
      lowest={lowest}
      unset={unset}
      moves={moves}
      fixed={moves && !lane}
    >
      {lane && <LaneButton lane={lane} label={parameter.label} moves={moves} />}
    </ValueRow>
  );
}
