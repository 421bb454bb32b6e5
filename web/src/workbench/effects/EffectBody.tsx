import { Button } from '@mantine/core';
import { memo, useCallback, useMemo, useState } from 'react';
import type { EffectTable } from '../../api/client';
import { usePlayer } from '../../player/player';
import type { EffectPart, ParamValue } from '../../reel/document';
import { useTools } from '../tools/context';
import { useBeats } from '../tools/found';
import { Bands } from './Bands';
import { useDrawing } from './drawing/useDrawing';
import { EffectPicture } from './EffectPicture';
import { ParameterRow } from './ParameterRow';
import { setting } from '../values/params';
import { PresetMenu } from './PresetMenu';
import { ReferenceField } from './ReferenceField';
import type { TimeUnits } from '../values/values';
import { useTogether } from '../selected/together';

interface Props {
  owner: string;
  track: string | undefined;
  effect: EffectPart;
  table: EffectTable;
}

const FIRST = 3;

/** What an open effect shows: its drawing, its presets and its controls, the telling ones first. */
export const EffectBody = memo(function EffectBody({ owner, track, effect, table }: Props) {
  const { alike, edit } = useTogether(owner);
  const [more, setMore] = useState(false);
  const params = effect.params ?? {};
  const drawing = useDrawing(owner, effect.id, params);
  const drawn = useMemo(() => ({ owner, effect: effect.id }), [owner, effect.id]);
  const units = useTimeUnits(drawing?.units);
  const shown = more ? table.parameters : table.parameters.slice(0, FIRST);
  const rest = table.parameters.slice(FIRST);
  const { id } = effect;
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
      <EffectPicture
        drawing={drawing}
        table={table}
        params={params}
        edits={(values) => alike([set(values)])}
        drawn={drawn}
        beside={<PresetMenu owner={owner} id={effect.id} table={table} />}
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
          lanes={`${owner}/${effect.id}`}
        />
      ))}
      {table.group && (
        <Bands
          table={table}
          params={params}
          lanes={`${owner}/${effect.id}`}
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

/** Frames, beats where some are known, and what the drawing knows of. */
function useTimeUnits(own: Record<string, number> | undefined): TimeUnits {
  const { clock } = useTools();
  const beats = useBeats();
  const { position } = usePlayer.getState();
  const next = beats.findIndex((beat) => beat > position);
  const pair = next > 0 ? next : beats.length > 1 ? 1 : 0;
  const beat = pair > 0 ? beats[pair]! - beats[pair - 1]! : 0;
  const metres = own?.['m'];
  return useMemo(
    () => ({
      f: 1000 / clock.framesPerSecond,
      ...(metres ? { m: metres } : {}),
      ...(beat > 0 ? { beat: (1000 * beat) / clock.sampleRate } : {}),
    }),
    [clock, metres, beat],
  );
}
