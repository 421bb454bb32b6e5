import { NativeSelect } from '@mantine/core';
import type { Ramp } from '../../reel/document';
import { FrameField } from './FrameField';
import { Handle } from './Handle';

const SHAPES = [
  { value: 'linear', label: 'linear' },
  { value: 'smooth', label: 'smooth' },
  { value: 'equal_power', label: 'equal power' },
  { value: 'log', label: 'late' },
  { value: 'bend', label: 'bent' },
];

/** What is changed of a ramp, as commands take it. */
export type RampChange = { frames: number } | { shape: string } | { bend: number };

interface Props {
  label: string;
  ramp: Ramp | undefined;
  frames: number;
  save: (change: RampChange) => Promise<unknown>;
}

/** Length in frames and shape of a ramp or a fade. */
export function RampField({ label, ramp, frames, save }: Props) {
  return (
    <div className="ramp">
      <FrameField label={label} frames={frames} save={(n) => void save({ frames: n })} />
      <NativeSelect
        size="xs"
        aria-label={`Shape of the ${label.toLowerCase()}`}
        value={ramp?.shape ?? 'linear'}
        onChange={(e) => void save({ shape: e.currentTarget.value })}
        data={SHAPES}
      />
      {ramp?.shape === 'bend' && (
        <Handle
          label="Bend"
          help={`${label}. Left: arrives early. Right: arrives late.`}
          low={-1}
          value={ramp.bend ?? 0}
          save={(bend) => save({ bend })}
        />
      )}
    </div>
  );
}
