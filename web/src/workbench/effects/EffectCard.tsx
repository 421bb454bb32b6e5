import { Switch } from '@mantine/core';
import { useEffect, useRef } from 'react';
import { effectsOf, firstValue } from '../../reel/document';
import { useReorder } from '../../ui/Reorder';
import { useReel } from '../../reel/useReel';
import { useTools } from '../tools/context';
import { useSelection } from '../selected/selection';
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
  const effect = useReel((d) => effectsOf(d, owner).find((e) => e.id === id));
  const { edit } = useTogether(owner);
  const openCard = useSelection((s) => s.openCard);
  const card = useRef<HTMLElement>(null);
  useEffect(() => {
    // A card that opens below the edge would hide what was asked for.
    if (open) card.current?.scrollIntoView({ block: 'nearest' });
  }, [open]);
  const kind = effect?.kind ?? '';
  const table = effects.find((e) => e.id === kind);
  const order = useReorder(id, table?.label ?? kind);
  if (!effect) return null;
  if (!table) return <p className="trouble">This version does not know “{effect.kind}”.</p>;
  const params = effect.params ?? {};
  const telling = table.telling
    .map((id) => table.parameters.find((p) => p.id === id))
    .filter((p) => p !== undefined)
    .slice(0, 2)
    .map((p) => formatValue(p, firstValue(params[p.id], p.default ?? 0)))
    .join(' · ');
  return (
    <section
      ref={(node) => {
        card.current = node;
        order.ref(node);
      }}
      style={order.style}
      className="effect-card"
      data-off={effect.bypass || undefined}
      aria-label={table.label}
    >
      <div className="effect-line">
        {order.handle}
        <button
          type="button"
          className="effect-name"
          title={SETS_IN[table.engages]}
          onClick={() => openCard(open ? undefined : id)}
          aria-expanded={open}
        >
          {table.label}
          {!open && <span className="quiet small number"> {telling}</span>}
        </button>
        <EffectMenu owner={owner} id={id} table={table} index={index} last={last} />
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
      {open && <EffectBody owner={owner} track={track} effect={effect} table={table} />}
    </section>
  );
}

/** How an effect follows the strength of its treatment. */
const SETS_IN: Record<string, string> = {
  sweep: 'Ramps by gliding its settings from no effect to where they stand.',
  send: 'Ramps by feeding it more: what is already inside rings on.',
  blend: 'Ramps by crossfading from the direct sound to the treated one.',
};
