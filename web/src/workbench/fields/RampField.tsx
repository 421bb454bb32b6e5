import { NativeSelect } from '@mantine/core';
import type { Ramp } from '../../reel/document';
import { useSession, type Command } from '../../reel/session';
import { slope } from '../axis/slope';
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
  /** It leads in, or out. */
  rises: boolean;
  edits: (change: RampChange) => readonly Command[];
}

/** Corners of the shape as it is drawn. */
const [LOW_LEFT, HIGH_LEFT, LOW_RIGHT, HIGH_RIGHT] = [
  [4, 16],
  [4, 4],
  [22, 16],
  [22, 4],
] as const;

/** Length in frames and shape of a ramp or a fade. */
export function RampField({ label, short, ramp, frames, rises, edits }: Props) {
  const edit = useSession((s) => s.edit);
  const shape = SHAPES.find((s) => s.value === ramp?.shape) ?? SHAPES[0]!;
  const [from, to] = rises ? [LOW_LEFT, HIGH_RIGHT] : [HIGH_LEFT, LOW_RIGHT];
  return (
    <div className="ramp">
      <FrameField label={label} short={short} frames={frames} edits={(n) => edits({ frames: n })} />
      <span className="shape-choice" title={`Shape of the ${label.toLowerCase()}: ${shape.label}`}>
        <svg viewBox="0 0 34 20" aria-hidden>
          <path d={`M${from.join(' ')}${slope(ramp, from, to, rises)}`} />
          <path className="more" d="M26 9l3 3l3 -3" />
        </svg>
        <NativeSelect
          size="xs"
          aria-label={`Shape of the ${label.toLowerCase()}`}
          value={shape.value}
          onChange={(e) => void edit(edits({ shape: e.currentTarget.value }))}
          data={SHAPES}
        />
      </span>
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
