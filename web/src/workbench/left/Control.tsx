import { Slider, Tooltip } from '@mantine/core';
import { useEffect, useRef, useState } from 'react';
import type { ParameterTable } from '../../api/client';
import { firstValue, type Movable } from '../../reel/document';
import { useWorkbench } from '../context';
import { formatValue, readValue, shareOf, STEPS, valueAt } from './values';

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
}

const PREVIEW_MS = 60;

/** One parameter: dragged, typed with a unit, nudged with arrow keys, reset by a double click. */
export function Control({ parameter, value, unset, preview, commit, reset }: Props) {
  const { player } = useWorkbench();
  const moves = typeof value !== 'number';
  const stored = firstValue(value, parameter.default ?? parameter.low);
  const [turning, setTurning] = useState<number | undefined>();
  const [text, setText] = useState<string | undefined>();
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const shown = turning ?? stored;
  useEffect(() => setTurning(undefined), [stored]);

  const turn = (v: number) => {
    setTurning(v);
    clearTimeout(timer.current);
    timer.current = setTimeout(() => preview(v), PREVIEW_MS);
  };
  const finish = (v: number) => {
    clearTimeout(timer.current);
    if (v === stored && !unset) {
      setTurning(undefined);
      player.setProvisional([]);
    } else {
      setTurning(v);
      commit(v);
    }
  };
  const typed = () => {
    const v = text === undefined ? undefined : readValue(parameter, text);
    setText(undefined);
    if (v !== undefined) finish(v);
  };

  return (
    <div className="control" onDoubleClick={reset}>
      <Tooltip label={`${parameter.help} Double click: reset.`} multiline w={240} position="right">
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
        disabled={moves}
        label={null}
        thumbProps={{ 'aria-valuetext': formatValue(parameter, shown) }}
        onChange={(s) => turn(valueAt(parameter, s / STEPS))}
        onChangeEnd={(s) => finish(valueAt(parameter, s / STEPS))}
      />
      {moves ? (
        <span className="number control-value" title="This value has keyframes.">
          moves
        </span>
      ) : (
        <input
          className="number control-value"
          data-unset={unset || undefined}
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
    </div>
  );
}
