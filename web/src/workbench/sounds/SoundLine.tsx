import { ActionIcon, Button, Loader, Tooltip } from '@mantine/core';
import { IconGripVertical, IconHeadphones, IconPlayerStopFilled } from '@tabler/icons-react';
import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import type { ParameterTable } from '../../api/client';
import { useSession } from '../../reel/session';
import { OpenLine } from '../fields/OpenLine';
import { useTools } from '../tools/context';
import { hear, stopHearing, useHearing } from './hearing';
import { InContext } from './InContext';
import { asSet, saveSound } from './keeping';
import { dragSound, laidNow, layNow } from './laying';
import { Setting } from './Setting';
import { asItComes, type Model, type Sound, type WantedSound } from './shelf';

interface Props {
  sound: Sound;
  model: Model;
  /** How loud every sound comes, and the control of its level. */
  loudness: number;
  level: ParameterTable;
  open: boolean;
  /** Whether it is what the shelf was opened at. */
  first: boolean;
  toggle: () => void;
}

/** One sound that ships; opened, it shows what can be set and where it would go. */
export function SoundLine({ sound, model, loudness, level, open, first, toggle }: Props) {
  const { clock, player } = useTools();
  const [wanted, setWanted] = useState<WantedSound>(() => asItComes(sound, model));
  const [busy, setBusy] = useState(false);
  const queries = useQueryClient();
  const tell = useSession((s) => s.tell);
  const lay = async () => {
    setBusy(true);
    await layNow(wanted, clock).catch((error: unknown) => tell((error as Error).message));
    setBusy(false);
  };
  const set = (id: string, value: number) =>
    setWanted({ ...wanted, settings: { ...wanted.settings, [id]: value } });
  const changed =
    wanted.seed !== 1 ||
    wanted.gainDb !== 0 ||
    model.parameters.some((p) => wanted.settings[p.id] !== sound.settings[p.id]);
  return (
    <OpenLine
      label={sound.name}
      help={sound.help}
      open={open}
      focused={first}
      toggle={toggle}
      enter={() => void lay()}
      before={
        <Tooltip label="Drag it to a track" position="top-start">
          <span
            className="sound-grip"
            aria-hidden
            onPointerDown={(e) => dragSound(e, wanted, clock)}
          >
            <IconGripVertical size={14} />
          </span>
        </Tooltip>
      }
      after={<HearButton wanted={wanted} />}
    >
      <div className="sound-body">
        {model.parameters.map((p) => (
          <Setting
            key={p.id}
            parameter={p}
            value={wanted.settings[p.id] ?? p.default ?? p.low}
            set={(value) => set(p.id, value)}
          />
        ))}
        <Setting
          parameter={level}
          value={wanted.gainDb}
          set={(gainDb) => setWanted({ ...wanted, gainDb })}
        />
        <InContext
          name={sound.name}
          bed={model.kind === 'bed'}
          loudness={loudness + wanted.gainDb}
          laid={() => laidNow(wanted, clock)}
        />
        <span className="sound-tools">
          <Button size="compact-sm" loading={busy} onClick={() => void lay()}>
            {model.kind === 'bed' ? 'Lay as a bed' : 'Lay at the playhead'}
          </Button>
          <Button
            size="compact-sm"
            variant="default"
            onClick={() => {
              const another = { ...wanted, seed: wanted.seed + 1 };
              setWanted(another);
              void hear(player, another).catch((e: unknown) => tell((e as Error).message));
            }}
          >
            Another take
          </Button>
          <Button
            size="compact-sm"
            variant="subtle"
            onClick={() => void saveSound(queries, asSet(wanted), sound.name)}
          >
            Save as a preset
          </Button>
          {changed && (
            <Button
              size="compact-sm"
              variant="subtle"
              onClick={() => setWanted(asItComes(sound, model))}
            >
              Reset
            </Button>
          )}
        </span>
      </div>
    </OpenLine>
  );
}

/** Hear it by itself. */
function HearButton({ wanted }: { wanted: WantedSound }) {
  const { player } = useTools();
  const on = useHearing((s) => s.of === wanted.sound.id);
  const waiting = useHearing((s) => s.waiting);
  const tell = useSession((s) => s.tell);
  const name = wanted.sound.name;
  return (
    <Tooltip label={on ? 'Stop' : 'Listen to it by itself'}>
      <ActionIcon
        size={24}
        variant="subtle"
        color="gray"
        aria-label={on ? `Stop listening to ${name}` : `Listen to ${name}`}
        aria-pressed={on}
        onClick={() => {
          if (on) stopHearing();
          else void hear(player, wanted).catch((e: unknown) => tell((e as Error).message));
        }}
      >
        {on && waiting ? (
          <Loader size={12} />
        ) : on ? (
          <IconPlayerStopFilled size={14} />
        ) : (
          <IconHeadphones size={15} />
        )}
      </ActionIcon>
    </Tooltip>
  );
}
