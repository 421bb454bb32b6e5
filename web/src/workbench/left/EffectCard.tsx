import { Button, Switch } from '@mantine/core';
import { useEffect, useRef, useState } from 'react';
import {
  firstValue,
  spanOf,
  type EffectPart,
  type ParamValue,
  type Params,
} from '../../reel/document';
import { useSession } from '../../reel/session';
import { useWorkbench } from '../context';
import { Bands } from './Bands';
import { EffectPicture } from './EffectPicture';
import { EffectMenu } from './EffectMenu';
import { ParameterRow } from './ParameterRow';
import { setting } from './params';
import { PresetMenu } from './PresetMenu';
import { ReferenceField } from './ReferenceField';
import { formatValue } from './values';

interface Props {
  owner: string;
  /** The track that the chain is on, if it is on one. */
  track: string | undefined;
  effect: EffectPart;
  index: number;
  last: boolean;
  open: boolean;
  toggle: () => void;
}

const FIRST = 3;

/** One effect: a line, and when open what it does and its controls, those that matter first. */
export function EffectCard({ owner, track, effect, index, last, open, toggle }: Props) {
  const { document, effects, player } = useWorkbench();
  const edit = useSession((s) => s.edit);
  const [more, setMore] = useState(false);
  const [trial, setTrial] = useState<Params>({});
  const card = useRef<HTMLElement>(null);
  useEffect(() => {
    // A card that opens below the edge would hide what was asked for.
    if (open) card.current?.scrollIntoView({ block: 'nearest' });
  }, [open]);
  useEffect(() => setTrial({}), [effect.params]);
  const table = effects.find((e) => e.id === effect.kind);
  if (!table) return <p className="trouble">This version does not know “{effect.kind}”.</p>;
  const params = effect.params ?? {};
  const shown = more ? table.parameters : table.parameters.slice(0, FIRST);
  const rest = table.parameters.slice(FIRST);
  const set = (params: Record<string, ParamValue | null>) =>
    ({ kind: 'set_effect', owner, id: effect.id, params }) as const;
  const preview = (values: Params) => {
    player.setProvisional([set(values)]);
    setTrial(values);
  };
  const commit = (values: Record<string, ParamValue | null>) => void edit(set(values));
  const telling = table.telling
    .map((id) => table.parameters.find((p) => p.id === id))
    .filter((p) => p !== undefined)
    .slice(0, 2)
    .map((p) => formatValue(p, firstValue(params[p.id], p.default ?? 0)))
    .join(' · ');
  return (
    <section
      ref={card}
      className="effect-card"
      data-off={effect.bypass || undefined}
      aria-label={table.label}
    >
      <div className="effect-line">
        <span className="number quiet">{index + 1}</span>
        <button type="button" className="effect-name" onClick={toggle} aria-expanded={open}>
          {table.label}
          {!open && <span className="quiet small number"> {telling}</span>}
        </button>
        <EffectMenu owner={owner} effect={effect} table={table} index={index} last={last} />
        <Switch
          size="sm"
          aria-label={`${table.label} on`}
          checked={!effect.bypass}
          onChange={(e) =>
            void edit({
              kind: 'set_effect',
              owner,
              id: effect.id,
              bypass: !e.currentTarget.checked,
            })
          }
        />
      </div>
      {open && (
        <div className="effect-body">
          <EffectPicture
            owner={owner}
            effect={effect.id}
            start={spanOf(document, owner).start}
            table={table}
            params={{ ...params, ...trial }}
            preview={preview}
            commit={commit}
          />
          <PresetMenu owner={owner} id={effect.id} table={table} />
          {table.reference && (
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
              preview={(id, value) => preview({ [id]: value })}
              commit={(id, value) => commit({ [id]: value })}
            />
          ))}
          {table.group && (
            <Bands
              table={table}
              params={params}
              preview={(id, value) => preview(setting(params, id, value))}
              commit={(id, value) =>
                commit(value === null ? { [id]: null } : setting(params, id, value))
              }
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
      )}
    </section>
  );
}
