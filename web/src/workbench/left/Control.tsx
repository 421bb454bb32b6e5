import { Slider, Tooltip } from '@mantine/core';
import { useEffect, useRef, useState } from 'react';
import type { ParameterTable } from '../../api/client';
import { firstValue, type Movable } from '../../reel/document';
import { useSession } from '../../reel/session';
import { useWorkbench } from '../context';
import { LaneButton } from '../lanes/LaneButton';
import { useLaneValue, useRecording } from '../lanes/recording';
import { formatValue, readValue, shareOf, STEPS, valueAt, type TimeUnits } from './values';

interface Props {
  parameter: ParameterTable;
  value: Movable;
  /** It follows another parameter until it is set. */
  unset?: boolean;
  /** While it is being turned. */
  preview: (value: number) => void;
  /** On release. */
  commit: (value: number) => void;
  reset: () => void;
  /** Other units that a time may be typed in. */
  units?: TimeUnits | undefined;
  /** Name of the value's lane, if it can move. */
  lane?: string | undefined;
}

const PREVIEW_MS = 60;

/** One parameter: dragged, typed with a unit, nudged with arrow keys, reset by a double click. */
export function Control(props: Props) {
  const { parameter, value, unset, preview, commit, reset, units, lane } = props;
  const { player } = useWorkbench();
  const moves = typeof value !== 'number';
  const now = useLaneValue(moves ? lane : undefined);
  const stored = now ?? firstValue(value, parameter.default ?? parameter.low);
  const recording = useRecording(lane, moves);
  const [turning, setTurning] = useState<number | undefined>();
  const [text, setText] = useState<string | undefined>();
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const shown = turning ?? stored;
  const refusals = useSession((s) => s.refusals);
  useEffect(() => setTurning(undefined), [stored, refusals]);

  const turn = (v: number) => {
    setTurning(v);
    recording.note(v);
    clearTimeout(timer.current);
    timer.current = setTimeout(() => preview(v), PREVIEW_MS);
  };
  const finish = (v: number) => {
    clearTimeout(timer.current);
    if (recording.finish(v)) {
      player.setProvisional([]);
    } else if (v === stored && !unset) {
      setTurning(undefined);
      player.setProvisional([]);
    } else {
      setTurning(v);
      commit(v);
    }
  };
  const typed = () => {
    const v = text === undefined ? undefined : readValue(parameter, text, units);
    setText(undefined);
    if (v !== undefined) finish(v);
  };

  return (
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
        onChangeEnd={(s) => finish(valueAt(parameter, s / STEPS))}
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
              finish(valueAt(parameter, shareOf(parameter, shown) + by / STEPS));
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
