import { Slider, Tooltip } from '@mantine/core';
import { useRef, useState } from 'react';

/** One handle of a way from value to value, in hundredths. */
export function Handle(props: {
  label: string;
  help: string;
  low: -1 | 0;
  value: number;
  /** Ends when the value has been taken over. */
  save: (value: number) => Promise<unknown>;
}) {
  const { label, help, low, value, save } = props;
  const [turning, setTurning] = useState<number | undefined>();
  // Keys come faster than the server takes them over: what is shown waits for the last.
  const underWay = useRef(0);
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
          underWay.current++;
          void save(v / 100).finally(() => {
            if (--underWay.current === 0) setTurning(undefined);
          });
        }}
      />
      <span className="number control-value">{turning ?? Math.round(value * 100)}</span>
    </div>
  );
}
