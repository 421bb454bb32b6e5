import { firstValue, type Treatment } from '../../reel/document';
import { slope } from '../axis/slope';

const WIDTH = 300;
const HEIGHT = 34;

interface Props {
  treatment: Pick<Treatment, 'strength' | 'ramp_in' | 'ramp_out'>;
  /** Of the treatment, and of what rings out of it. */
  length: number;
  tail: number;
}

/** The treatment's depth over its length, ramps magnified so that a few frames can be seen. */
export function StrengthDrawing({ treatment, length, tail }: Props) {
  const strength = firstValue(treatment.strength, 100);
  const head = treatment.ramp_in?.length ?? 0;
  const foot = treatment.ramp_out?.length ?? 0;
  const ringing = tail > 0 ? 60 : 0;
  const span = WIDTH - ringing - 16;
  const part = (ramp: number) =>
    ramp === 0 ? 2 : Math.min(span / 3, 10 + 26 * Math.sqrt(ramp / length) * 2);
  const depth = 4 + ((HEIGHT - 12) * strength) / 100;
  const right = 8 + span;
  return (
    <div className="strength-drawing">
      <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} preserveAspectRatio="none" aria-hidden="true">
        <path
          d={`M8 4${slope(treatment.ramp_in, [8, 4], [8 + part(head), depth], true)}H${right - part(foot)}${slope(treatment.ramp_out, [right - part(foot), depth], [right, 4], false)}Z`}
          className="depth"
        />
        {tail > 0 &&
          [0, 1, 2].map((k) => (
            <path
              key={k}
              className="contour"
              d={`M${right} ${8 + k * 6} Q${right + 30} ${7 + k * 3} ${right + ringing - k * 8} 5`}
            />
          ))}
      </svg>
    </div>
  );
}
