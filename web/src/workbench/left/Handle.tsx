import { Slider, Tooltip } from '@mantine/core';
import { useState } from 'react';

/** One handle of a way from value to value, in hundredths. */
export function Handle(props: {
  label: string;
  help: string;
  low: -1 | 0;
  value: number;
  save: (value: number) => void;
}) {
  const { label, help, low, value, save } = props;
  const [turning, setTurning] = useState<number | undefined>();
  return (
    <div className="control">
      <Tooltip label={help}>
        <span className="control-label">{label}</span>
      </Tooltip>
      <Slider
        size="xs"
        thumbSize={16}
        thumbLabel={label}
        min={low * 100}
        max={100}
        step={1}
        label={null}
        value={turning ?? Math.round(value * 100)}
        onChange={setTurning}
        onChangeEnd={(v) => {
          setTurning(undefined);
          save(v / 100);
        }}
      />
      <span className="number control-value">{Math.round(value * 100)}</span>
    </div>
  );
}
