import { memo } from 'react';
import type { EffectTable, ParameterTable } from '../../api/client';
import { atOnce, type DrawnEffect } from '../../hand/gesture';
import type { Command } from '../../reel/session';
import { firstValue, type ParamValue, type Params } from '../../reel/document';
import { Choice } from '../fields/Choice';
import { Control } from '../fields/Control';
import { isMovable, valueOf } from '../values/params';
import type { Known } from '../../typed/values';

interface Props {
  table: EffectTable;
  parameter: ParameterTable;
  /** Name of the parameter, with its place in a list. */
  id: string;
  params: Params;
  /** The edits that setting a parameter to a value stands for; to nothing, that it is reset. */
  edits: (id: string, value: ParamValue | null) => readonly Command[];
  drawing?: DrawnEffect | undefined;
  /** Other units that times may be typed in. */
  units?: Known;
  /** Begin of the names of the effect's lanes. */
  lanes?: string;
}

/** What a row shows of the effect's parameters: its own value, and that of the one it follows. */
function shownOf({ params, id, parameter }: Props): unknown[] {
  return [valueOf(params, id), parameter.follows && params[parameter.follows]];
}

function same(a: Props, b: Props): boolean {
  const others = ['table', 'parameter', 'id', 'edits', 'drawing', 'units', 'lanes'] as const;
  const [was, is] = [shownOf(a), shownOf(b)];
  return others.every((key) => a[key] === b[key]) && was.every((value, i) => value === is[i]);
}

/** One parameter of an effect, as a choice among names or as a control. */
export const ParameterRow = memo(function ParameterRow(props: Props) {
  const { table, parameter: p, id, params, edits, drawing, units, lanes } = props;
  const value = valueOf(params, id);
  if (p.choices.length > 0)
    return (
      <Choice
        parameter={p}
        value={value ?? p.choices[p.default ?? 0]}
        commit={(v) => void atOnce(edits(id, v))}
      />
    );
  const followed = p.follows ? table.parameters.find((q) => q.id === p.follows) : undefined;
  const fallback =
    p.default ??
    (followed
      ? firstValue(params[followed.id], followed.default ?? 0)
      : p.scale === 'log'
        ? p.low
        : (p.low + p.high) / 2);
  return (
    <Control
      parameter={p}
      value={isMovable(value) ? value : fallback}
      unset={value === undefined && p.default === null}
      reset={() => void atOnce(edits(id, null))}
      edits={(v) => edits(id, v)}
      drawing={drawing}
      units={p.unit === 'ms' ? units : undefined}
      lane={lanes && p.movable ? `${lanes}/${id}` : undefined}
    />
  );
}, same);
