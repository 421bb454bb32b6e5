import { NativeSelect } from '@mantine/core';
import type { Ramp } from '../../reel/document';
import { useSession, type Command } from '../../reel/session';
import { FrameField } from './FrameField';
import { Handle } from './Handle';

const SHAPES = [
  { value: 'linear', label: 'Straight' },
  { value: 'smooth', label: 'Smooth' },
  { value: 'equal_power', label: 'Equal power' },
  { value: 'log', label: 'Slow start' },
  { value: 'bend', label: 'Curved' },
];

/** What is changed of a ramp, as commands take it. */
export type RampChange = { frames: number } | { shape: string } | { bend: number };

interface Props {
  label: string;
  short?: string;
  ramp: Ramp | undefined;
  frames: number;
  edits: (change: RampChange) => readonly Command[];
}

/** Length in frames and shape of a ramp or a fade. */
export function RampField({ label, short, ramp, frames, edits }: Props) {
  const edit = useSession((s) => s.edit);
  return (
    <div className="ramp">
      <FrameField label={label} short={short} frames={frames} edits={(n) => edits({ frames: n })} />
      <NativeSelect
        size="xs"
        aria-label={`Shape of the ${label.toLowerCase()}`}
        value={ramp?.shape ?? 'linear'}
        onChange={(e) => void edit(edits({ shape: e.currentTarget.value }))}
        data={SHAPES}
      />
      {ramp?.shape === 'bend' && (
        <Handle
          label="Bend"
          help={`${label}. Left: arrives early. Right: arrives late.`}
          low={-1}
          value={ramp.bend ?? 0}
          edits={(bend) => edits({ bend })}
        />
      )}
    </div>
  );
}
