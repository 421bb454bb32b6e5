import { Tooltip } from '@mantine/core';
import type { ReactNode } from 'react';
import type { ParameterTable } from '../../api/client';
import { readValue, type Known } from '../../typed/values';
import { formatValue, shareOf, STEPS, valueAt } from '../values/values';
import { HandSlider } from './HandSlider';
import { TypedField } from './TypedField';

interface Props {
  parameter: ParameterTable;
  shown: number;
  /** It is being turned. */
  turn: (value: number) => void;
  /** It has been let go of, or nudged. */
  settle?: (value: number, nudged: boolean) => void;
  /** Its turning has been given up. */
  giveUp?: () => void;
  /** It has been typed. */
  keep: (value: number) => void;
  reset: () => void;
  /** Other units that it may be typed in. */
  units?: Known | undefined;
  /** The least that can be typed, where the slider ends sooner. */
  lowest?: number | undefined;
  unset?: boolean | undefined;
  moves?: boolean;
  /** It moves, and has no lane in which to say how. */
  fixed?: boolean;
  children?: ReactNode;
}

/** Of a control's travel, for one press of an arrow key. */
const NUDGE = 10;

/** One value: dragged, typed with a unit, nudged with arrow keys, reset by a double click. */
export function ValueRow(props: Props) {
  const { parameter, shown, turn, settle, giveUp, keep, reset, units, lowest, fixed } = props;
  const nudged = (steps: number) =>
    valueAt(parameter, shareOf(parameter, shown) + (steps * NUDGE) / STEPS);
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
      <HandSlider
        thumbLabel={parameter.label}
        min={0}
        max={STEPS}
        value={Math.round(shareOf(parameter, shown) * STEPS)}
        valueText={formatValue(parameter, shown)}
        disabled={fixed === true}
        turn={(s) => turn(valueAt(parameter, s / STEPS))}
        settle={(s, nudged) => settle?.(valueAt(parameter, s / STEPS), nudged)}
        giveUp={giveUp}
      />
      {fixed ? (
        <span className="number control-value" title="This value has keyframes.">
          moves
        </span>
      ) : (
        <TypedField
          className="number control-value"
          label={`${parameter.label}, value`}
          shown={formatValue(parameter, shown)}
          unset={props.unset}
          moves={props.moves}
          read={(text) => readValue({ ...parameter, low: lowest ?? parameter.low }, text, units)}
          keep={keep}
          heard
          nudge={(steps) => (settle ?? turn)(nudged(steps), true)}
        />
      )}
      {props.children}
    </div>
  );
}

function unitsHelp(units: Known): string {
  const words = { f: '12 f for frames', m: '20 m for a wall so far away', beat: '1/2 beat' };
  const known = (Object.keys(units) as (keyof Known)[]).filter((unit) => units[unit]);
  return known.length ? ` Type ms or s, ${known.map((unit) => words[unit]).join(', ')}.` : '';
}
