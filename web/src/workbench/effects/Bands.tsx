import { ActionIcon, Button, Tooltip } from '@mantine/core';
import { IconRestore, IconX } from '@tabler/icons-react';
import { useState } from 'react';
import type { EffectTable, ParameterTable } from '../../api/client';
import { atOnce, type DrawnEffect } from '../../hand/gesture';
import type { Command } from '../../reel/session';
import { firstValue, type ParamValue, type Params } from '../../reel/document';
import { entriesOf } from '../values/params';
import { ParameterRow } from './ParameterRow';
import { formatValue } from '../values/values';

interface Props {
  table: EffectTable;
  params: Params;
  edits: (id: string, value: ParamValue) => readonly Command[];
  drawing: DrawnEffect;
  /** Begin of the names of the effect's lanes. */
  lanes: string;
}

/** The entries of an effect's list, one open at a time. */
export function Bands({ table, params, edits, drawing, lanes }: Props) {
  const group = table.group!;
  const entries = entriesOf(params, group.id);
  const commit = (id: string, value: ParamValue) => void atOnce(edits(id, value));
  const [open, setOpen] = useState(0);
  const words = (entry: Record<string, ParamValue>) =>
    counting(group.parameters, entry)
      .slice(0, 3)
      .map((p) => {
        const value = entry[p.id];
        if (p.choices.length > 0)
          return String(value ?? p.choices[p.default ?? 0]).replace('_', ' ');
        return formatValue(p, firstValue(value, p.default ?? p.low));
      })
      .join(' · ');
  return (
    <div className="bands">
      {entries.map((entry, index) => (
        <section key={index} className="band" aria-label={`${group.label} ${index + 1}`}>
          <div className="band-line">
            <button
              type="button"
              className="effect-name"
              aria-expanded={open === index}
              onClick={() => setOpen(open === index ? -1 : index)}
            >
              <span className="number">{index + 1}</span>{' '}
              <span className="small">{words(entry)}</span>
            </button>
            <Tooltip label={`Reset this ${group.label.toLowerCase()}`}>
              <ActionIcon
                variant="subtle"
                color="gray"
                aria-label={`Reset ${group.label.toLowerCase()} ${index + 1}`}
                data-disabled={Object.keys(entry).length === 0}
                onClick={() =>
                  commit(
                    group.id,
                    entries.map((e, i) => (i === index ? {} : e)),
                  )
                }
              >
                <IconRestore size={14} />
              </ActionIcon>
            </Tooltip>
            <Tooltip label={`Remove this ${group.label.toLowerCase()}`}>
              <ActionIcon
                variant="subtle"
                color="gray"
                aria-label={`Remove ${group.label.toLowerCase()} ${index + 1}`}
                onClick={() =>
                  commit(
                    group.id,
                    entries.filter((_, i) => i !== index),
                  )
                }
              >
                <IconX size={14} />
              </ActionIcon>
            </Tooltip>
          </div>
          {open === index &&
            counting(group.parameters, entry).map((p) => (
              <ParameterRow
                key={p.id}
                table={table}
                parameter={p}
                id={`${group.id}.${index}.${p.id}`}
                params={params}
                edits={(id, value) => edits(id, value ?? defaultOf(p))}
                drawing={drawing}
                lanes={lanes}
              />
            ))}
        </section>
      ))}
      {entries.length < group.most && (
        <Button
          size="compact-xs"
          variant="default"
          onClick={() => {
            setOpen(entries.length);
            commit(group.id, [...entries, {}]);
          }}
        >
          Add a {group.label.toLowerCase()}
        </Button>
      )}
    </div>
  );
}

/** The rows that count for an entry: those that its other choices leave without meaning are not shown. */
function counting(rows: ParameterTable[], entry: Record<string, ParamValue>): ParameterTable[] {
  return rows.filter((row) => {
    const chooser = rows.find((p) => p.id === row.counts_for?.id);
    if (!row.counts_for || !chooser) return true;
    const chosen = entry[chooser.id] ?? chooser.choices[chooser.default ?? 0];
    return row.counts_for.choices.includes(String(chosen));
  });
}

/** A value reset inside a list is written out, so that the list stays whole. */
function defaultOf(p: { default: number | null; choices: string[] }): ParamValue {
  const value = p.default ?? 0;
  return p.choices.length > 0 ? p.choices[value]! : value;
}
