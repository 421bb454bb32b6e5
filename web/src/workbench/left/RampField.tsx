import { NativeSelect } from '@mantine/core';
import type { Ramp } from '../../reel/document';
import { FrameField } from './FrameField';

const SHAPES = [
  { value: 'linear', label: 'linear' },
  { value: 'smooth', label: 'smooth' },
  { value: 'equal_power', label: 'equal power' },
  { value: 'log', label: 'late' },
];

interface Props {
  label: string;
  ramp: Ramp | undefined;
  frames: number;
  save: (change: { frames: number } | { shape: string }) => void;
}

/** Length in frames and shape of a ramp or a fade. */
export function RampField({ label, ramp, frames, save }: Props) {
  return (
    <div className="ramp">
      <FrameField label={label} frames={frames} save={(n) => save({ frames: n })} />
      <NativeSelect
        size="xs"
        aria-label={`Shape of the ${label.toLowerCase()}`}
        value={ramp?.shape ?? 'linear'}
        onChange={(e) => save({ shape: e.currentTarget.value })}
        data={SHAPES}
      />
    </div>
  );
}
