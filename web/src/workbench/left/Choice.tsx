import { SegmentedControl, Tooltip } from '@mantine/core';
import type { ParameterTable } from '../../api/client';

interface Props {
  parameter: ParameterTable;
  value: unknown;
  commit: (value: string) => void;
}

/** One parameter that is one of a few names. */
export function Choice({ parameter, value, commit }: Props) {
  return (
    <div className="control choice">
      <Tooltip label={parameter.help} multiline w={240} position="right">
        <span className="control-label">{parameter.label}</span>
      </Tooltip>
      <SegmentedControl
        size="xs"
        aria-label={parameter.label}
        data={parameter.choices}
        value={String(value)}
        onChange={commit}
      />
    </div>
  );
}
