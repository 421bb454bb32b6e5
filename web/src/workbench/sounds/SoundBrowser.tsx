import { SegmentedControl } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useDeferredValue, useEffect, useState } from 'react';
import { stopHearing } from './hearing';
import { shelf, soundsFound, type Model, type Sound } from './shelf';
import type { Wanted } from '../tools/leftTab';
import { OwnSounds } from './own/OwnSounds';
import { SoundLine } from './SoundLine';

const KINDS = [
  { value: 'all', label: 'All' },
  { value: 'bed', label: 'Beds' },
  { value: 'hit', label: 'Hits' },
  { value: 'own', label: 'Mine' },
];

/** The sounds that ship: searched, listened to, set, and laid. */
export function SoundBrowser({ wanted }: { wanted?: Wanted | undefined }) {
  const [text, setText] = useState(wanted?.text ?? '');
  const [kind, setKind] = useState('all');
  const [open, setOpen] = useState(wanted?.id);
  const asked = useDeferredValue(text.trim());
  const { data } = useQuery(shelf);
  const found = useQuery(soundsFound(asked));
  useEffect(() => stopHearing, []);
  if (!data) return <p className="quiet">Loading…</p>;
  const models = new Map(data.models.map((m) => [m.id, m]));
  const byId = new Map(data.sounds.map((s) => [s.id, s]));
  const hits = asked ? (found.data ?? []).flatMap((id) => byId.get(id) ?? []) : data.sounds;
  const shown = hits.filter((s) => kind === 'all' || models.get(s.model)!.kind === kind);
  return (
    <div className="sounds">
      <div className="shelf-head">
        <input
          className="go-to"
          type="search"
          aria-label="Search sounds"
          placeholder="tin roof, whoosh …"
          value={text}
          onChange={(e) => setText(e.currentTarget.value)}
        />
        <SegmentedControl
          size="xs"
          aria-label="Kind of sound"
          data={KINDS}
          value={kind}
          onChange={setKind}
        />
      </div>
      {kind === 'own' && <OwnSounds text={asked} />}
      {kind !== 'own' && asked && found.data && shown.length === 0 && (
        <p className="quiet">No sound matches “{asked}”.</p>
      )}
      {grouped(shown, models, asked !== '').map(([family, sounds]) => (
        <section key={family} aria-label={family || 'Found'}>
          {family && <h3 className="sounds-family">{family}</h3>}
          <ul>
            {sounds.map((sound) => (
              <SoundLine
                key={sound.id}
                sound={sound}
                model={models.get(sound.model)!}
                loudness={data.loudness}
                level={data.level}
                open={open === sound.id}
                first={wanted?.id === sound.id}
                toggle={() => setOpen(open === sound.id ? undefined : sound.id)}
              />
            ))}
          </ul>
        </section>
      ))}
    </div>
  );
}

/** By family, in the shelf's order; what was searched for stays in the order of how well it fits. */
function grouped(
  sounds: Sound[],
  models: Map<string, Model>,
  searched: boolean,
): [string, Sound[]][] {
  if (searched) return sounds.length ? [['', sounds]] : [];
  const families = new Map<string, Sound[]>();
  for (const sound of sounds) {
    const { family } = models.get(sound.model)!;
    families.set(family, [...(families.get(family) ?? []), sound]);
  }
  return [...families];
}
