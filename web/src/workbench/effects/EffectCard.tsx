import { Switch } from '@mantine/core';
import { useEffect, useRef } from 'react';
import type { EffectTable } from '../../api/client';
import { effectsOf, firstValue, type Params, type ReelDocument } from '../../reel/document';
import { useReorder } from '../../ui/Reorder';
import { useReel } from '../../reel/useReel';
import { useTools } from '../tools/context';
import { ALL_CLOSED, useSelection } from '../selected/selection';
import { useTogether } from '../selected/together';
import { EffectBody } from './EffectBody';
import { EffectMenu } from './EffectMenu';
import { formatValue } from '../values/values';

interface Props {
  owner: string;
  /** The track that the chain is on, if it is on one. */
  track: string | undefined;
  id: string;
  index: number;
  last: boolean;
  open: boolean;
}

/** One effect: a line, and when open what it does and its controls, those that matter first. */
export function EffectCard({ owner, track, id, index, last, open }: Props) {
  const { effects } = useTools();
  // What an open one is set to is shown by its body, which is drawn anew by itself.
  const own = (reel: ReelDocument) => effectsOf(reel, owner).find((e) => e.id === id);
  const kind = useReel((d) => own(d)?.kind);
  const bypass = useReel((d) => own(d)?.bypass);
  const table = effects.find((e) => e.id === kind);
  const telling = useReel((d) => (open ? '' : tellingOf(table, own(d)?.params ?? {})));
  const { edit } = useTogether(owner);
  const openCard = useSelection((s) => s.openCard);
  const card = useRef<HTMLElement>(null);
  useEffect(() => {
    // A card that opens below the edge would hide what was asked for.
    if (open && useSelection.getState().openEffect === id)
      card.current?.scrollIntoView({ block: 'nearest' });
  }, [open, id]);
  const order = useReorder(id, table?.label ?? kind ?? '');
  if (kind === undefined) return null;
  if (!table) return <p className="trouble">This version does not know “{kind}”.</p>;
  return (
    <section
      ref={(node) => {
        card.current = node;
        order.ref(node);
      }}
      style={order.style}
      className="effect-card"
      data-off={bypass || undefined}
      aria-label={table.label}
    >
      <div className="effect-line">
        {order.handle}
        <button
          type="button"
          className="effect-name"
          title={SETS_IN[table.engages]}
          onClick={() => openCard(open ? ALL_CLOSED : id)}
          aria-expanded={open}
        >
          {table.label}
          {!open && <span className="quiet small number"> {telling}</span>}
        </button>
        <EffectMenu owner={owner} id={id} table={table} index={index} last={last} />
        <Switch
          size="sm"
          aria-label={`${table.label} on`}
          checked={!bypass}
          onChange={(e) =>
            void edit({
              kind: 'set_effect',
              owner,
              id,
              bypass: !e.currentTarget.checked,
            })
          }
        />
      </div>
      {open && <EffectBody owner={owner} track={track} id={id} table={table} />}
    </section>
  );
}

/** What it is set to, in as few words as tell it from others. */
function tellingOf(table: EffectTable | undefined, params: Params): string {
  return (table?.telling ?? [])
    .map((id) => table!.parameters.find((p) => p.id === id))
    .filter((p) => p !== undefined)
    .slice(0, 2)
    .map((p) => formatValue(p, firstValue(params[p.id], p.default ?? 0)))
    .join(' · ');
}

/** How an effect follows the strength of its treatment. */
const SETS_IN: Record<string, string> = {
  sweep: 'Ramps by gliding its settings from no effect to where they stand.',
  send: 'Ramps by feeding it more: what is already inside rings on.',
  blend: 'Ramps by crossfading from the direct sound to the treated one.',
};
