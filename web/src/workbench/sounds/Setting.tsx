import type { ParameterTable } from '../../api/client';
import type { Known } from '../../typed/values';
import { Choice } from '../fields/Choice';
import { ValueRow } from '../fields/ValueRow';

interface Props {
  parameter: ParameterTable;
  value: number;
  set: (value: number) => void;
  /** Other units that it may be typed in. */
  units?: Known;
}

/** One value of something that is not in the reel yet. */
export function Setting({ parameter: p, value, set, units }: Props) {
  if (p.choices.length > 0)
    return (
      <Choice
        parameter={p}
        value={p.choices[Math.round(value)]}
        commit={(name) => set(p.choices.indexOf(name))}
      />
    );
  return (
    <ValueRow
      parameter={p}
      shown={value}
      turn={set}
      keep={set}
      reset={() => set(p.default ?? p.low)}
      units={p.unit === 'f' ? units : undefined}
    />
  );
}
