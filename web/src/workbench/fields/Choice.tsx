import { NativeSelect, SegmentedControl, Tooltip } from '@mantine/core';
import type { ParameterTable } from '../../api/client';

interface Props {
  parameter: ParameterTable;
  value: unknown;
  commit: (value: string) => void;
}

/** More names than this do not fit side by side. */
const SIDE_BY_SIDE = 3;

/** One parameter that is one of some names. */
export function Choice({ parameter, value, commit }: Props) {
  const data = parameter.choices.map((name) => ({ value: name, label: name.replace('_', ' ') }));
  return (
    <div className="control choice">
      <Tooltip label={parameter.help} multiline w={240} position="right">
        <span className="control-label">{parameter.label}</span>
      </Tooltip>
      {data.length > SIDE_BY_SIDE ? (
        <NativeSelect
          size="xs"
          aria-label={parameter.label}
          data={data}
          value={String(value)}
          onChange={(e) => commit(e.currentTarget.value)}
        />
      ) : (
        <SegmentedControl
          size="xs"
          aria-label={parameter.label}
          data={data}
          value={String(value)}
          onChange={commit}
        />
      )}
    </div>
  );
}
