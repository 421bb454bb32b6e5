import { Tooltip } from '@mantine/core';
import { useTurning } from '../../hand/turning';
import type { Command } from '../../reel/session';
import { HandSlider } from './HandSlider';

/** One handle of a way from value to value, in hundredths. */
export function Handle(props: {
  label: string;
  help: string;
  low: -1 | 0;
  value: number;
  edits: (value: number) => readonly Command[];
}) {
  const { label, help, low, value, edits } = props;
  const stored = Math.round(value * 100);
  const { turning, turn, settle, giveUp } = useTurning({ stored, edits: (v) => edits(v / 100) });
  return (
    <div className="control">
      <Tooltip label={help}>
        <span className="control-label">{label}</span>
      </Tooltip>
      <HandSlider
        thumbLabel={label}
        min={low * 100}
        max={100}
        value={turning ?? stored}
        turn={turn}
        settle={settle}
        giveUp={giveUp}
      />
      <span className="number control-value">{turning ?? stored}</span>
    </div>
  );
}
