import { Button, Menu } from '@mantine/core';
import { IconTrash } from '@tabler/icons-react';
import { memo, useCallback, useState } from 'react';
import { useShallow } from 'zustand/react/shallow';
import {
  effectsOf,
  findChain,
  spanOf,
  type Ramp,
  type ReelDocument,
  type Treatment,
} from '../../reel/document';
import { useSession, type Command } from '../../reel/session';
import { lengthText } from '../../time/clock';
import { Reorder } from '../../ui/Reorder';
import { useAsked } from '../tools/asked';
import { useTools } from '../tools/context';
import { STRENGTH } from '../keyframes/lanes';
import { Poses } from '../lanes/Poses';
import { openOf, useSelection } from '../selected/selection';
import { usePartEdits } from '../selected/partEdits';
import { useTogether } from '../selected/together';
import { AddEffect } from '../effects/AddEffect';
import { rampEdits, type Wanted } from '../effects/finding';
import { Control } from '../fields/Control';
import { EffectCard } from '../effects/EffectCard';
import { fresh, useClipboard } from '../effects/clipboard';
import { ClipFields } from '../clips/ClipFields';
import { EndBeforeBeat } from '../clips/EndBeforeBeat';
import { KeepItem, KeptSettings } from '../listening/KeptSettings';
import { LevelItems } from '../listening/LevelItems';
import { SaveItem } from '../presets/SaveItem';
import { MakeItem } from '../recipes/MakeItem';
import { LevelFields } from './LevelFields';
import { PlaceFields } from '../fields/PlaceFields';
import { RampField } from '../fields/RampField';
import { RingOut } from './RingOut';
import { AnalyseMenu } from '../analysis/AnalyseMenu';
import { WaveDrawing } from './WaveDrawing';
import { StrengthDrawing } from './StrengthDrawing';
import { reelNow, useReel, without } from '../../reel/useReel';

interface Props {
  owner: string;
  id: string;
  /** The track that it is on; the mix's is on none. */
  track: string | undefined;
}

/** What the sheet itself shows of a chain: each effect draws itself. */
interface Shown extends Partial<Omit<Treatment, 'effects' | 'kept'>> {
  title: string;
  path: string;
  /** How many effects it has. */
  count: number;
}

function shownOf(reel: ReelDocument, owner: string): Shown | undefined {
  const found = findChain(reel, owner);
  if (!found) return undefined;
  const { chain, name: title, path } = found;
  return { ...without(chain, 'effects', 'kept'), title, path, count: chain.effects?.length ?? 0 };
}

/** A chain of effects: its strength, ramps and ring-out, and its effects in order. */
export function ChainSheet({ owner, id, track }: Props) {
  const chain = useReel(useShallow((d: ReelDocument) => shownOf(d, owner)));
  return chain ? <Sheet owner={owner} id={id} track={track} chain={chain} /> : null;
}

function Sheet({ owner, id, track, chain }: Props & { chain: Shown }) {
  const { title, path, count } = chain;
  const on = useReel((d) => d.tracks?.find((t) => t.id === track)?.name);
  const { clock } = useTools();
  const { alike, edit } = useTogether(owner);
  const tail = useSession((s) => s.derived?.tails[path] ?? 0);
  const natural = useSession((s) => s.derived?.natural_tails[path] ?? 0);
  const copied = useClipboard((s) => s.effects);
  const copy = useClipboard((s) => s.copy);
  const parts = usePartEdits();
  const openCard = useSelection((s) => s.openCard);
  const isSpan = owner.startsWith('treatment:');
  const isClip = owner.startsWith('clip:');
  const { start, end } = useReel(useShallow((d: ReelDocument) => spanOf(d, owner)));
  const span = isSpan ? chain : undefined;

  const edits = useCallback(
    ({ effect, ramps, after }: Wanted): Command[] => {
      const more = [...(isSpan ? rampEdits(id, ramps) : []), ...after(owner)];
      return [{ kind: 'add_effect', owner, effect }, ...more];
    },
    [owner, id, isSpan],
  );
  const add = useCallback(
    (wanted: Wanted) => void edit(edits(wanted)).then((done) => done && openCard(wanted.effect.id)),
    [edit, openCard, edits],
  );
  const where = useCallback(() => spanOf(reelNow(), owner), [owner]);

  const trim = (edge: 'start' | 'end', sample: number) => {
    const other = edge === 'start' ? end : start;
    const both = edge === 'start' ? [sample, other] : [other, sample];
    const [from, to] = both.map((place) => ({ sample: place }));
    void edit({ kind: 'set_treatment', id, start: from, end: to });
  };
  const paste = async (replace = false) => {
    const effects = fresh(copied);
    if (await edit({ kind: 'add_effects', owner, effects, replace })) openCard(effects[0]!.id);
  };

  return (
    <div className="sheet">
      <div className="sheet-head">
        <h2 className="sheet-title">
          {span ? (
            <NameField
              name={title}
              save={(text) => void edit({ kind: 'set_treatment', id, name: text })}
            />
          ) : (
            <span className="name">{title}</span>
          )}
          <span className="quiet small">
            {span
              ? `on ${on} · ${lengthText(clock, end - start)}`
              : isClip
                ? `clip on ${on}`
                : track !== undefined
                  ? 'the whole track'
                  : 'everything that is heard'}
          </span>
        </h2>
        {span && <StrengthDrawing treatment={span} length={end - start} tail={tail} />}
      </div>
      <div className="sheet-body">
        {isClip && <ClipFields id={id} />}
        {span && track !== undefined && (
          <PlaceFields
            start={start}
            end={end}
            track={track}
            move={(sample) => void edit({ kind: 'set_treatment', id, start: { sample } })}
            trim={trim}
            toTrack={(track) => void edit({ kind: 'set_treatment', id, track })}
          />
        )}
        {!isClip && !span && <LevelFields owner={owner} track={track} />}
        {count > 0 && (
          <div className="strength">
            <Control
              parameter={STRENGTH}
              value={chain.strength ?? 100}
              reset={() => void edit({ kind: 'set_chain', owner, strength: 100 })}
              edits={(v) => alike([{ kind: 'set_chain', owner, strength: v }])}
              lane={`${owner}/strength`}
            />
            {span && (
              <Ramps
                id={id}
                start={start}
                end={end}
                rampIn={span.ramp_in}
                rampOut={span.ramp_out}
              />
            )}
          </div>
        )}
        <KeptSettings owner={owner} />
        <Effects owner={owner} track={track} />
        {natural > 0 && (
          <RingOut owner={owner} ring={chain.ring_out ?? 'auto'} tail={tail} end={end} />
        )}
        {count > 0 && <WaveDrawing owner={owner} />}
        <AnalyseMenu of={[owner]} />
        <AddEffect add={add} edits={edits} span={where} />
        <Poses owner={owner} />
        {!span && count === 0 && (
          <p className="quiet">
            {isClip
              ? 'The effects of a clip travel with it. An echo rings on past its end.'
              : track !== undefined
                ? 'What is added here treats the whole track, after its clips and stretches.'
                : 'What is added here treats the sum of all tracks, last of all.'}
          </p>
        )}
      </div>
      <div className="sheet-foot">
        {count > 0 && (
          <>
            <Button
              size="compact-sm"
              variant="subtle"
              onClick={() => void edit({ kind: 'set_chain', owner, bypass: !chain.bypass })}
            >
              {chain.bypass ? 'All on' : 'All off'}
            </Button>
            <Button
              size="compact-sm"
              variant="subtle"
              onClick={() => copy(effectsOf(reelNow(), owner))}
            >
              Copy all
            </Button>
          </>
        )}
        {copied.length > 0 && (
          <Button size="compact-sm" variant="subtle" onClick={() => void paste()}>
            Paste{copied.length > 1 ? ` ${copied.length}` : ''}
          </Button>
        )}
        <Menu position="top-start" width={230}>
          <Menu.Target>
            <Button size="compact-sm" variant="subtle" aria-label="More for all effects">
              More ▾
            </Button>
          </Menu.Target>
          <Menu.Dropdown>
            <Menu.Item
              disabled={count === 0}
              onClick={() => void edit({ kind: 'reset_effects', owner })}
            >
              Reset all effects
            </Menu.Item>
            <Menu.Item disabled={copied.length === 0} onClick={() => void paste(true)}>
              Paste over all effects
            </Menu.Item>
            {(isClip || span) && (
              <Menu.Item onClick={() => useAsked.getState().ask('copy-to')}>Copy to…</Menu.Item>
            )}
            {count > 0 && <KeepItem owner={owner} />}
            {count > 0 && <SaveItem owner={owner} name={span?.name} />}
            {(isClip || (span && count > 0)) && <MakeItem name={span?.name} />}
            <LevelItems owner={owner} treated={count > 0} />
          </Menu.Dropdown>
        </Menu>
        {isClip && <EndBeforeBeat clip={id} />}
        {span && (
          <Button
            size="compact-sm"
            variant="subtle"
            className="remove"
            leftSection={<IconTrash size={15} />}
            onClick={() => {
              parts.remove();
            }}
          >
            Remove
          </Button>
        )}
      </div>
    </div>
  );
}

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

interface RampsProps {
  id: string;
  start: number;
  end: number;
  rampIn: Ramp | undefined;
  rampOut: Ramp | undefined;
}

/** Ramp lengths in frames, and their shapes. */
const Ramps = memo(function Ramps({ id, start, end, rampIn, rampOut }: RampsProps) {
  const { clock } = useTools();
  const { alike } = useTogether(`treatment:${id}`);
  const frames = (a: number, b: number) => clock.frameOfSample(b) - clock.frameOfSample(a);
  const ramps = [
    ['ramp_in', 'Ramp in', 'Ramp in', rampIn, frames(start, start + (rampIn?.length ?? 0))],
    ['ramp_out', 'Ramp out', 'Ramp out', rampOut, frames(end - (rampOut?.length ?? 0), end)],
  ] as const;
  return (
    <div className="ramps">
      {ramps.map(([key, label, short, ramp, count]) => (
        <RampField
          key={key}
          label={label}
          short={short}
          ramp={ramp}
          frames={count}
          rises={key === 'ramp_in'}
          edits={(change) => alike([{ kind: 'set_treatment', id, [key]: change }])}
        />
      ))}
    </div>
  );
});

/** The effects in order; each draws itself when it changes. */
const Effects = memo(function Effects(props: { owner: string; track: string | undefined }) {
  const { owner, track } = props;
  const { edit } = useTogether(owner);
  const openEffect = useSelection((s) => s.openEffect);
  const ids = useSession(
    useShallow((s) => (s.document ? effectsOf(s.document, owner) : []).map((e) => e.id)),
  );
  const open = useReel((d) => openOf(effectsOf(d, owner), openEffect)?.id);
  return (
    <Reorder
      ids={ids}
      move={(effect, index) => {
        // What is open stays so, wherever it is then.
        if (open) useSelection.getState().openCard(open);
        void edit({ kind: 'move_effect', owner, id: effect, index });
      }}
    >
      {ids.map((id, index) => (
        <EffectCard
          key={id}
          owner={owner}
          track={track}
          id={id}
          index={index}
          last={index === ids.length - 1}
          open={open === id}
        />
      ))}
    </Reorder>
  );
});
