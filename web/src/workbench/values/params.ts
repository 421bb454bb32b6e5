/** An effect's parameters by name; those of a list's entries are called `bands.0.freq_hz`. */
import type { EffectTable, ParameterTable } from '../../api/client';
import type { Movable, ParamValue, Params } from '../../reel/document';
import { rounded } from './values';

export function parameterOf(table: EffectTable, id: string): ParameterTable | undefined {
  const [group, , inner] = id.split('.');
  if (inner !== undefined)
    return table.group?.id === group
      ? table.group?.parameters.find((p) => p.id === inner)
      : undefined;
  return table.parameters.find((p) => p.id === id);
}

/** The entries of a list, empty where there is none. */
export function entriesOf(params: Params, group: string): Record<string, ParamValue>[] {
  const found = params[group];
  return Array.isArray(found) ? found : [];
}

export function valueOf(params: Params, id: string): ParamValue | undefined {
  const [group, index, inner] = id.split('.');
  return inner === undefined ? params[id] : entriesOf(params, group!)[Number(index)]?.[inner];
}

/** What to set so that one parameter has a value: itself, or the list that it is in. */
export function setting(params: Params, id: string, value: ParamValue): Params {
  const [group, index, inner] = id.split('.');
  if (inner === undefined) return { [id]: value };
  const entries = entriesOf(params, group!).map((entry, i) =>
    i === Number(index) ? { ...entry, [inner]: value } : entry,
  );
  return { [group!]: entries };
}

export function isMovable(value: ParamValue | undefined): value is Movable {
  return (
    typeof value === 'number' ||
    (typeof value === 'object' && !Array.isArray(value) && 'keyframes' in value)
  );
}

/** The number nearest to a wanted one that the parameter can have. */
export function fitting(parameter: ParameterTable, value: number): number {
  return rounded(parameter, Math.min(parameter.high, Math.max(parameter.low, value)));
}

/** The preset that an effect is set to as it stands, if it is one of its own. */
export function presetOf(table: EffectTable, params: Params): string | undefined {
  const named = table.reference?.id;
  const own = Object.entries(params).filter(([id]) => id !== named);
  return table.presets.find((preset) => {
    const wanted = preset.params as Params;
    return (
      Object.keys(wanted).length === own.length &&
      own.every(([id, value]) => id in wanted && alike(value, wanted[id]))
    );
  })?.name;
}

/** Keyframes of a preset lie at shares of a length: they are told by their values. */
function alike(a: unknown, b: unknown): boolean {
  if (typeof a !== 'object' || typeof b !== 'object' || !a || !b) return a === b;
  const keys = Object.keys(a).filter((key) => key !== 'at' && key !== 'share');
  const others = Object.keys(b).filter((key) => key !== 'at' && key !== 'share');
  return (
    keys.length === others.length &&
    keys.every((key) =>
      alike((a as Record<string, unknown>)[key], (b as Record<string, unknown>)[key]),
    )
  );
}
