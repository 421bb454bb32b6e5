import { ActionIcon, Button, Switch, Tooltip } from '@mantine/core';
import { IconArrowUp, IconX } from '@tabler/icons-react';
import { useEffect, useRef, useState } from 'react';
import { firstValue, type EffectPart } from '../../reel/document';
import { useSession } from '../../reel/session';
import { useWorkbench } from '../context';
import { Choice } from './Choice';
import { Control } from './Control';
import { formatValue } from './values';

interface Props {
  owner: string;
  effect: EffectPart;
  index: number;
  open: boolean;
  toggle: () => void;
}

const FIRST = 3;

/** One effect: a line, and when open its controls, the three that matter first. */
export function EffectCard({ owner, effect, index, open, toggle }: Props) {
  const { effects, player } = useWorkbench();
  const edit = useSession((s) => s.edit);
  const [more, setMore] = useState(false);
  const card = useRef<HTMLElement>(null);
  useEffect(() => {
    // A card that opens below the edge would hide what was asked for.
    if (open) card.current?.scrollIntoView({ block: 'nearest' });
  }, [open]);
  const table = effects.find((e) => e.id === effect.kind);
  if (!table) return <p className="trouble">This version does not know “{effect.kind}”.</p>;
  const params = effect.params ?? {};
  const shown = more ? table.parameters : table.parameters.slice(0, FIRST);
  const rest = table.parameters.slice(FIRST);
  const set = (params: Record<string, number | string | null>) =>
    ({ kind: 'set_effect', owner, id: effect.id, params }) as const;
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
        {index > 0 && (
          <Tooltip label="Before the one above">
            <ActionIcon
              variant="subtle"
              color="gray"
              aria-label={`Move ${table.label} up`}
              onClick={() =>
                void edit({ kind: 'move_effect', owner, id: effect.id, index: index - 1 })
              }
            >
              <IconArrowUp size={16} />
            </ActionIcon>
          </Tooltip>
        )}
        <Tooltip label="Remove this effect">
          <ActionIcon
            variant="subtle"
            color="gray"
            aria-label={`Remove ${table.label}`}
            onClick={() => void edit({ kind: 'remove_effect', owner, id: effect.id })}
          >
            <IconX size={16} />
          </ActionIcon>
        </Tooltip>
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
          {shown.map((p) => {
            const followed = p.follows
              ? table.parameters.find((q) => q.id === p.follows)
              : undefined;
            const fallback =
              p.default ??
              (followed
                ? firstValue(params[followed.id], followed.default ?? 0)
                : (p.low + p.high) / 2);
            if (p.choices.length > 0)
              return (
                <Choice
                  key={p.id}
                  parameter={p}
                  value={params[p.id] ?? p.choices[p.default ?? 0]}
                  commit={(v) => void edit(set({ [p.id]: v }))}
                />
              );
            return (
              <Control
                key={p.id}
                parameter={p}
                value={params[p.id] ?? fallback}
                unset={params[p.id] === undefined && p.default === null}
                reset={() => void edit(set({ [p.id]: null }))}
                preview={(v) => player.setProvisional([set({ [p.id]: v })])}
                commit={(v) => void edit(set({ [p.id]: v }))}
              />
            );
          })}
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
