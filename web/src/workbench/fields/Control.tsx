import { Slider, Tooltip } from '@mantine/core';
import type { ParameterTable } from '../../api/client';
import { firstValue, type Movable } from '../../reel/document';
import { useTurning } from '../../hand/turning';
import type { DrawnEffect } from '../../hand/gesture';
import type { Command } from '../../reel/session';
import { LaneButton } from '../keyframes/LaneButton';
import { useLaneValue, useRecording } from '../keyframes/recording';
import { readValue, type Known } from '../../typed/values';
import { formatValue, shareOf, STEPS, valueAt } from '../values/values';
import { TypedField } from './TypedField';

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

/** Of a control's travel, for one press of an arrow key. */
const NUDGE = 10;

/** One parameter: dragged, typed with a unit, nudged with arrow keys, reset by a double click. */
export function Control(props: Props) {
  const { parameter, value, unset, edits, drawing, reset, units, lane, lowest } = props;
  const moves = typeof value !== 'number';
  const now = useLaneValue(moves ? lane : undefined);
  const stored = now ?? firstValue(value, parameter.default ?? parameter.low);
  const recording = useRecording(lane, moves);
  const { turning, turn, finish, settle } = useTurning({
    stored,
    unset,
    drawing,
    edits,
    recording,
  });
  const shown = turning ?? stored;

  return (
    // What its default is can be typed as well.
    // eslint-disable-next-line jsx-a11y/no-static-element-interactions
    <div className="control" onDoubleClick={reset}>
      <Tooltip
        label={`${parameter.help} Double click: reset.${units ? unitsHelp(units) : ''}`}
        multiline
        w={240}
        position="right"
      >
        <span className="control-label">{parameter.label}</span>
      </Tooltip>
      <Slider
        size="xs"
        thumbLabel={parameter.label}
        thumbSize={24}
        min={0}
        max={STEPS}
        step={1}
        value={Math.round(shareOf(parameter, shown) * STEPS)}
        disabled={moves && !lane}
        label={null}
        thumbProps={{ 'aria-valuetext': formatValue(parameter, shown) }}
        onChange={(s) => turn(valueAt(parameter, s / STEPS))}
        onChangeEnd={(s) => settle(valueAt(parameter, s / STEPS))}
      />
      {moves && !lane ? (
        <span className="number control-value" title="This value has keyframes.">
          moves
        </span>
      ) : (
        <TypedField
          className="number control-value"
          label={`${parameter.label}, value`}
          shown={formatValue(parameter, shown)}
          unset={unset}
          moves={moves}
          read={(text) => readValue({ ...parameter, low: lowest ?? parameter.low }, text, units)}
          keep={finish}
          nudge={(steps) =>
            settle(valueAt(parameter, shareOf(parameter, shown) + (steps * NUDGE) / STEPS), true)
          }
        />
      )}
      {lane && <LaneButton lane={lane} label={parameter.label} moves={moves} />}
    </div>
  );
}

function unitsHelp(units: Known): string {
  const words = { f: '12 f for frames', m: '20 m for a wall so far away', beat: '1/2 beat' };
  const known = (Object.keys(units) as (keyof Known)[]).filter((unit) => units[unit]);
  return known.length ? ` Type ms or s, ${known.map((unit) => words[unit]).join(', ')}.` : '';
}
