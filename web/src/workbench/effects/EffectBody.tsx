import { Button } from '@mantine/core';
import { memo, useCallback, useMemo, useState } from 'react';
import type { EffectTable } from '../../api/client';
import { effectsOf, type Params, type ParamValue } from '../../reel/document';
import { useReel } from '../../reel/useReel';
import { useKnownTimes } from '../tools/knownTimes';
import { Advice } from './Advice';
import { Bands } from './Bands';
import { useDrawing } from './drawing/useDrawing';
import { EffectPicture } from './EffectPicture';
import { ParameterRow } from './ParameterRow';
import { presetOf, setting } from '../values/params';
import { PresetMenu } from './PresetMenu';
import { ReferenceField } from './ReferenceField';
import { useTogether } from '../selected/together';

const NONE: Params = {};

interface Props {
  owner: string;
  track: string | undefined;
  id: string;
  table: EffectTable;
}

/** What an open effect shows: its drawing, its presets and its controls, the telling ones first. */
export const EffectBody = memo(function EffectBody({ owner, track, id, table }: Props) {
  const { alike, edit } = useTogether(owner);
  const [more, setMore] = useState(false);
  const params = useReel((d) => effectsOf(d, owner).find((e) => e.id === id)?.params) ?? NONE;
  const drawing = useDrawing(owner, id, params);
  const drawn = useMemo(() => ({ owner, effect: id }), [owner, id]);
  const units = useKnownTimes(drawing?.units);
  const early = table.parameters.filter((p) => table.first.includes(p.id));
  const rest = table.parameters.filter((p) => !table.first.includes(p.id));
  const shown = more ? [...early, ...rest] : early;
  const preset = presetOf(table, params);
  const set = useCallback(
    (params: Record<string, ParamValue | null>) =>
      ({ kind: 'set_effect', owner, id, params }) as const,
    [owner, id],
  );
  const setOne = useCallback(
    (parameter: string, value: ParamValue | null) => alike([set({ [parameter]: value })]),
    [alike, set],
  );
  const commit = (values: Record<string, ParamValue | null>) => void edit(set(values));
  return (
    <div className="effect-body">
      <Advice table={table} />
      <EffectPicture
        drawing={drawing}
        table={table}
        params={params}
        edits={(values) => alike([set(values)])}
        drawn={drawn}
        beside={<PresetMenu owner={owner} id={id} table={table} set={preset} />}
      />
      {table.reference?.to === 'track' && (
        <ReferenceField
          table={table}
          params={params}
          own={track}
          commit={(id, value) => commit({ [id]: value })}
        />
      )}
      {shown.map((p) => (
        <ParameterRow
          key={p.id}
          table={table}
          parameter={p}
          id={p.id}
          params={params}
          edits={setOne}
          drawing={drawn}
          units={units}
          lanes={`${owner}/${id}`}
        />
      ))}
      {table.group && (
        <Bands
          table={table}
          params={params}
          lanes={`${owner}/${id}`}
          edits={(id, value) => alike([set(setting(params, id, value))])}
          drawing={drawn}
        />
      )}
      {table.reference?.to === 'media' && more && (
        <ReferenceField
          table={table}
          params={params}
          own={track}
          commit={(id, value) => commit({ [id]: value })}
        />
      )}
      {rest.length > 0 && (
        <Button size="compact-xs" variant="subtle" onClick={() => setMore(!more)}>
          {more
            ? 'Fewer controls'
            : `${rest
                .map((p) => p.label)
                .slice(0, 4)
                .join(', ')}${rest.length > 4 ? ' …' : ''}`}
        </Button>
      )}
    </div>
  );
});
