import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useEffect } from 'react';
import { client, unwrap } from '../../api/client';
import { effectsOf } from '../../reel/document';
import { useSession } from '../../reel/session';
import { useReel } from '../../reel/useReel';
import { OpenLine } from '../fields/OpenLine';
import { stopTrying } from '../listening/trying';
import { openOf, ownerOf, useSelection } from '../selected/selection';
import { hear, stopHearing } from '../sounds/hearing';
import { layNow } from '../sounds/laying';
import { shelf } from '../sounds/shelf';
import { useTools } from '../tools/context';
import { Favourite, KeptTools, KeptWords } from './Kept';
import { attempt, useRefresh } from './changing';
import { presetUsed, soundOf, type Preset } from './presets';
import { tryPreset } from './walking';

interface Props {
  preset: Preset;
  open: boolean;
  toggle: () => void;
}

/** One preset; opened, it is tried, used, named and handed on. */
export function PresetLine({ preset, open, toggle }: Props) {
  const from = preset.by ? [`from ${preset.by}`] : [];
  const words = [preset.kind, ...from, ...preset.effects, ...preset.tags].join(' · ');
  return (
    <OpenLine
      label={preset.name}
      help={words}
      open={open}
      toggle={toggle}
      before={<Drawing preset={preset} />}
      after={<Favourite preset={preset} />}
    >
      <PresetCard preset={preset} />
    </OpenLine>
  );
}

function PresetCard({ preset }: { preset: Preset }) {
  const { clock, player } = useTools();
  const refresh = useRefresh();
  const { edit, tell } = useSession.getState();
  useEffect(
    () => () => {
      stopTrying(player);
      stopHearing();
    },
    [player],
  );
  const { data: sounds } = useQuery(shelf);
  const sound = soundOf(preset, sounds?.models ?? []);
  const use = () =>
    attempt(async () => {
      stopTrying(player);
      if (sound) {
        await layNow(sound, clock);
        return;
      }
      const { commands, notes } = await presetUsed(preset, false);
      if (await edit(commands)) notes.forEach(tell);
      await refresh();
    });
  const tryIt = () =>
    attempt(async () => {
      await (sound ? hear(player, sound) : tryPreset(player, preset));
    });
  return (
    <div className="sound-body preset-body">
      <KeptWords preset={preset} />
      <Where preset={preset} />
      <span className="sound-tools">
        <Button size="compact-sm" onClick={use}>
          {sound ? 'Lay it' : 'Use it'}
        </Button>
        {preset.kind !== 'poses' && (
          <Button size="compact-sm" variant="default" onClick={tryIt}>
            {sound ? 'Listen to it' : 'Try it'}
          </Button>
        )}
        <Update preset={preset} done={refresh} />
        <KeptTools preset={preset} />
      </span>
    </div>
  );
}

/** Where it would be used now. */
function Where({ preset }: { preset: Preset }) {
  const kind = useSelection((s) => s.selection.kind);
  const onto: Partial<Record<string, string>> = {
    range: 'Treats the range that is selected.',
    treatment:
      preset.kind === 'treatment'
        ? 'Takes the place of what the selected treatment holds.'
        : 'Is added to the selected treatment.',
    clip: 'Is added to the selected clip.',
    track: 'Is added to the whole track.',
    mix: 'Is added to the mix.',
  };
  if (preset.kind === 'poses')
    return (
      <p className="quiet small">
        Adds its poses to the selected treatment, clip or track, ready to stamp.
      </p>
    );
  if (preset.kind === 'bed')
    return (
      <p className="quiet small">
        A bed is laid over the range or treatment that is selected, else over this shot; a hit at
        the playhead.
      </p>
    );
  return (
    <p className="quiet small">
      {onto[kind] ?? 'Select a range, a treatment, a clip or a track to use it on.'}
    </p>
  );
}

/** The preset becomes what is selected now. */
function Update({ preset, done }: { preset: Preset; done: () => Promise<unknown> }) {
  const owner = useSelection((s) => ownerOf(s.selection));
  const opened = useSelection((s) => s.openEffect);
  const effect = useReel((d) => owner && openOf(effectsOf(d, owner), opened)?.id);
  const { id, tell } = useSession.getState();
  const alone = preset.kind === 'effect';
  const possible =
    owner &&
    preset.kind !== 'bed' &&
    preset.by === '' &&
    (preset.kind !== 'treatment' || owner.startsWith('treatment:')) &&
    (!alone || effect);
  if (!possible) return null;
  const update = () =>
    attempt(async () => {
      const path = { params: { path: { id: preset.id } } };
      const body = { reel: id, owner, ...(alone && { effect: effect ?? null }) };
      await unwrap(client.POST('/api/presets/{id}/replace', { ...path, body }));
      await done();
      tell(`“${preset.name}” updated.`);
    });
  return (
    <Button size="compact-sm" variant="subtle" onClick={update}>
      Update from selection
    </Button>
  );
}

const [WIDE, HIGH, MOST_RAMP] = [40, 18, 14];

/** A small drawing of it: as a treatment is drawn, its ramps and the hatch of its first effect. */
function Drawing({ preset }: { preset: Preset }) {
  const body = preset.body as {
    kind?: string;
    effects?: { kind: string }[];
    ramp_in?: { frames: number };
    ramp_out?: { frames: number };
  };
  const first = body.kind ?? body.effects?.[0]?.kind;
  const head = Math.min(MOST_RAMP, body.ramp_in?.frames ?? 0);
  const foot = Math.min(MOST_RAMP, body.ramp_out?.frames ?? 0);
  const outline = `M0 0L${head} ${HIGH}H${WIDE - foot}L${WIDE} 0Z`;
  return (
    <svg width={WIDE} height={HIGH} className="preset-drawing" aria-hidden="true">
      <path d={outline} fill="url(#depth-3)" />
      {first && <path className="hatch" d={outline} fill={`url(#hatch-${first})`} />}
    </svg>
  );
}
