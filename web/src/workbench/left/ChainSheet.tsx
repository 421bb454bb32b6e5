import { Button, SegmentedControl } from '@mantine/core';
import { IconTrash } from '@tabler/icons-react';
import { useState } from 'react';
import { type Chain, type Track, type Treatment } from '../../reel/document';
import { useSession } from '../../reel/session';
import { lengthText } from '../../time/clock';
import { newId } from '../../ui/ids';
import { useWorkbench } from '../context';
import { useSelection } from '../selection';
import { AddEffect } from './AddEffect';
import { Control } from './Control';
import { EffectCard } from './EffectCard';
import { EndBeforeBeat } from './EndBeforeBeat';
import { StrengthDrawing } from './StrengthDrawing';

interface Props {
  owner: string;
  id: string;
  found: { chain: Chain; name: string; path: string };
  track: Track;
}

/** A chain of effects: its strength, ramps and ring-out, and its effects in order. */
export function ChainSheet({ owner, id, found, track }: Props) {
  const { chain, name } = found;
  const { clock, player, effects } = useWorkbench();
  const { edit, derived } = useSession();
  const { select, openEffect, openCard } = useSelection();
  const isSpan = owner.startsWith('treatment:');
  const span = isSpan ? (chain as Treatment) : undefined;
  const tail = derived?.tails[found.path] ?? 0;
  const natural = derived?.natural_tails[found.path] ?? 0;
  const list = chain.effects ?? [];

  const add = async (kind: string) => {
    const effect = { id: newId('e'), kind, bypass: false, params: {} };
    if (await edit({ kind: 'add_effect', owner, effect })) openCard(effect.id);
  };

  return (
    <div className="sheet">
      <div className="sheet-head">
        <h2 className="sheet-title">
          {span ? (
            <NameField
              name={name}
              save={(text) => void edit({ kind: 'set_treatment', id, name: text })}
            />
          ) : (
            <span className="name">{name}</span>
          )}
          <span className="quiet small">
            {span
              ? `on ${track.name} · ${lengthText(clock, span.length)}`
              : `clip on ${track.name}`}
          </span>
        </h2>
        {span && <StrengthDrawing treatment={span} tail={tail} />}
      </div>
      <div className="sheet-body">
        {list.length > 0 && (
          <div className="strength">
            <Control
              parameter={STRENGTH}
              value={chain.strength ?? 100}
              reset={() => void edit({ kind: 'set_chain', owner, strength: 100 })}
              preview={(v) => player.setProvisional([{ kind: 'set_chain', owner, strength: v }])}
              commit={(v) => void edit({ kind: 'set_chain', owner, strength: v })}
            />
            {span && <Ramps span={span} id={id} />}
            {natural > 0 && <RingOut owner={owner} chain={chain} tail={tail} />}
          </div>
        )}
        {list.map((effect, index) => (
          <EffectCard
            key={effect.id}
            owner={owner}
            effect={effect}
            index={index}
            open={openEffect === effect.id || list.length === 1}
            toggle={() => openCard(openEffect === effect.id ? undefined : effect.id)}
          />
        ))}
        <AddEffect effects={effects} add={(kind) => void add(kind)} />
        {!span && list.length === 0 && (
          <p className="quiet">
            The effects of a clip travel with it. An echo rings on past its end.
          </p>
        )}
      </div>
      <div className="sheet-foot">
        {list.length > 0 && (
          <Button
            size="compact-sm"
            variant="subtle"
            onClick={() => void edit({ kind: 'set_chain', owner, bypass: !chain.bypass })}
          >
            {chain.bypass ? 'Switch all on' : 'Switch all off'}
          </Button>
        )}
        {!span && <EndBeforeBeat clip={id} />}
        {span && (
          <Button
            size="compact-sm"
            variant="subtle"
            className="remove"
            leftSection={<IconTrash size={15} />}
            onClick={() => {
              select({ kind: 'none' });
              void edit({ kind: 'remove_treatment', id });
            }}
          >
            Remove
          </Button>
        )}
      </div>
    </div>
  );
}

const STRENGTH = {
  id: 'strength',
  label: 'Strength',
  unit: '%',
  low: 0,
  high: 100,
  scale: 'linear',
  default: 100,
  neutral: 0,
  follows: '',
  help: 'How far the treatment is engaged.',
  movable: true,
  whole: false,
  choices: [],
};

function NameField({ name, save }: { name: string; save: (text: string) => void }) {
  const [text, setText] = useState<string | undefined>();
  const finish = () => {
    if (text !== undefined && text.trim() && text !== name) save(text.trim());
    setText(undefined);
  };
  return (
    <input
      className="name name-field"
      aria-label="Name of the treatment"
      value={text ?? name}
      onChange={(e) => setText(e.currentTarget.value)}
      onBlur={finish}
      onKeyDown={(e) => {
        if (e.key === 'Enter') e.currentTarget.blur();
        if (e.key === 'Escape') setText(undefined);
      }}
    />
  );
}

/** Ramp lengths, in frames. */
function Ramps({ span, id }: { span: Treatment; id: string }) {
  const { clock } = useWorkbench();
  const edit = useSession((s) => s.edit);
  const end = span.start + span.length;
  const head =
    clock.frameOfSample(span.start + (span.ramp_in?.length ?? 0)) - clock.frameOfSample(span.start);
  const foot = clock.frameOfSample(end) - clock.frameOfSample(end - (span.ramp_out?.length ?? 0));
  return (
    <div className="ramps">
      <FrameField
        label="Ramp in"
        frames={head}
        save={(frames) => void edit({ kind: 'set_treatment', id, ramp_in: { frames } })}
      />
      <FrameField
        label="Ramp out"
        frames={foot}
        save={(frames) => void edit({ kind: 'set_treatment', id, ramp_out: { frames } })}
      />
    </div>
  );
}

function FrameField({
  label,
  frames,
  save,
}: {
  label: string;
  frames: number;
  save: (frames: number) => void;
}) {
  const { clock } = useWorkbench();
  const [text, setText] = useState<string | undefined>();
  const finish = () => {
    const found = /^\s*(\d+(?:[.,]\d+)?)\s*(f|ms|s)?\s*$/.exec(text ?? '');
    if (found) {
      const amount = Number(found[1]!.replace(',', '.'));
      const perFrame = found[2] === 'ms' ? 1000 / clock.framesPerSecond : 1 / clock.framesPerSecond;
      const wanted = Math.round(found[2] === 'ms' || found[2] === 's' ? amount / perFrame : amount);
      if (wanted !== frames) save(wanted);
    }
    setText(undefined);
  };
  return (
    <label className="frame-field">
      {label}
      <input
        className="number"
        value={text ?? `${frames} f`}
        onChange={(e) => setText(e.currentTarget.value)}
        onFocus={(e) => e.currentTarget.select()}
        onBlur={finish}
        onKeyDown={(e) => {
          if (e.key === 'Enter') e.currentTarget.blur();
          if (e.key === 'Escape') setText(undefined);
          if (e.key === 'ArrowUp' || e.key === 'ArrowDown') {
            e.preventDefault();
            save(Math.max(0, frames + (e.key === 'ArrowUp' ? 1 : -1)));
          }
        }}
      />
    </label>
  );
}

function RingOut({ owner, chain, tail }: { owner: string; chain: Chain; tail: number }) {
  const { clock } = useWorkbench();
  const edit = useSession((s) => s.edit);
  const ring = chain.ring_out ?? 'auto';
  const mode = typeof ring === 'number' ? 'fixed' : ring;
  const set = (ring_out: 'auto' | 'none' | number) =>
    void edit({ kind: 'set_chain', owner, ring_out });
  const seconds = typeof ring === 'number' ? ring / clock.sampleRate : 2;
  const [text, setText] = useState<string | undefined>();
  const finish = () => {
    const value = Number((text ?? '').replace(',', '.').replace(/\s*s\s*$/, ''));
    if (text !== undefined && Number.isFinite(value) && value >= 0)
      set(Math.round(Math.min(value, 120) * clock.sampleRate));
    setText(undefined);
  };
  return (
    <div className="ring-out">
      <span>Rings out</span>
      <SegmentedControl
        size="xs"
        aria-label="Ring-out"
        value={mode}
        onChange={(value) =>
          set(value === 'fixed' ? 2 * clock.sampleRate : (value as 'auto' | 'none'))
        }
        data={[
          { value: 'auto', label: 'Freely' },
          { value: 'fixed', label: 'For' },
          { value: 'none', label: 'Not' },
        ]}
      />
      {mode === 'fixed' ? (
        <input
          className="number"
          aria-label="Seconds of ring-out"
          value={text ?? `${seconds.toFixed(2)} s`}
          onChange={(e) => setText(e.currentTarget.value)}
          onBlur={finish}
          onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
        />
      ) : (
        <span className="number quiet">{(tail / clock.sampleRate).toFixed(1)} s</span>
      )}
    </div>
  );
}
