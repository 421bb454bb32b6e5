import { Slider, Tooltip } from '@mantine/core';
import { useState } from 'react';
import type { ParameterTable } from '../../api/client';
import { firstValue, type Movable } from '../../reel/document';
import { useTurning } from '../../hand/turning';
import type { DrawnEffect } from '../../hand/gesture';
import type { Command } from '../../reel/session';
import { LaneButton } from '../keyframes/LaneButton';
import { useLaneValue, useRecording } from '../keyframes/recording';
import { formatValue, readValue, shareOf, STEPS, valueAt, type TimeUnits } from '../values/values';

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
  units?: TimeUnits | undefined;
  /** Name of the value's lane, if it can move. */
  lane?: string | undefined;
}

/** One parameter: dragged, typed with a unit, nudged with arrow keys, reset by a double click. */
export function Control(props: Props) {
  const { parameter, value, unset, edits, drawing, reset, units, lane } = props;
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
  const [text, setText] = useState<string | undefined>();
  const shown = turning ?? stored;
  const typed = () => {
    const v = text === undefined ? undefined : readValue(parameter, text, units);
    setText(undefined);
    if (v !== undefined) finish(v);
  };

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
        thumbSize={16}
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
        <input
          className="number control-value"
          data-unset={unset || undefined}
          data-moves={moves || undefined}
          aria-label={`${parameter.label}, value`}
          value={text ?? formatValue(parameter, shown)}
          onFocus={(e) => e.currentTarget.select()}
          onChange={(e) => setText(e.currentTarget.value)}
          onBlur={typed}
          onDoubleClick={(e) => e.stopPropagation()}
          onKeyDown={(e) => {
            if (e.key === 'Enter') typed();
            if (e.key === 'Escape') setText(undefined);
            if (e.key === 'ArrowUp' || e.key === 'ArrowDown') {
              e.preventDefault();
              const by = (e.key === 'ArrowUp' ? 1 : -1) * (e.shiftKey ? 50 : 10);
              settle(valueAt(parameter, shareOf(parameter, shown) + by / STEPS), true);
            }
          }}
        />
      )}
      {lane && <LaneButton lane={lane} label={parameter.label} moves={moves} />}
    </div>
  );
}

function unitsHelp(units: TimeUnits): string {
  const words = { f: '12 f for frames', m: '20 m for a wall so far away', beat: '1/2 beat' };
  const known = (Object.keys(units) as (keyof TimeUnits)[]).filter((unit) => units[unit]);
  return known.length ? ` Type ms or s, ${known.map((unit) => words[unit]).join(', ')}.` : '';
}
