import { Button, NativeSelect, Switch } from '@mantine/core';
import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { client, unwrap } from '../../api/client';
import type { Clip, Track } from '../../reel/document';
import { useSession } from '../../reel/session';
import { useReel } from '../../reel/useReel';
import { newId } from '../../ui/ids';
import { useTools } from '../tools/context';
import { saveSound } from './keeping';

/** What a bed does beside other clips: it follows its cuts, gives way, and can be longer. */
export function BedFields({ clip, track }: { clip: Clip; track: string }) {
  const edit = useSession((s) => s.edit);
  const tracks = useReel((d) => d.tracks) ?? [];
  const own = tracks.find((t) => t.id === track);
  const under = duckedUnder(own);
  return (
    <div className="bed-fields">
      <Switch
        size="xs"
        label="Follows its cuts"
        checked={clip.bed === true}
        onChange={(e) => void edit({ kind: 'set_clip', id: clip.id, bed: e.currentTarget.checked })}
      />
      <NativeSelect
        size="xs"
        label="Duck its track under"
        value={under ?? ''}
        onChange={(e) =>
          void edit({ kind: 'duck_track', track, under: e.currentTarget.value, id: newId('e') })
        }
        data={[
          { value: '', label: 'nothing', disabled: under !== undefined },
          ...tracks
            .filter((t) => t.id !== track)
            .map((t) => ({ value: t.id, label: t.name ?? t.id })),
        ]}
      />
      <Keep clip={clip} />
      <Longer clip={clip} />
    </div>
  );
}

function duckedUnder(track: Track | undefined): string | undefined {
  const duck = track?.treatment?.effects?.find((e) => e.kind === 'duck');
  const under = duck?.params?.['track'];
  return typeof under === 'string' ? under : undefined;
}

/** A computed sound is kept as it lies here, for other reels. */
function Keep({ clip }: { clip: Clip }) {
  const { media } = useTools();
  const queries = useQueryClient();
  const line = media.get(clip.media);
  if (!line?.name.endsWith('.sound')) return null;
  const gain = typeof clip.gain_db === 'number' ? clip.gain_db : 0;
  const name = line.name.slice(0, -'.sound'.length);
  return (
    <Button
      size="compact-xs"
      variant="default"
      onClick={() =>
        void saveSound(queries, { media: line.id, model: '', seed: 1, gain_db: gain, name }, name)
      }
    >
      Save as a preset
    </Button>
  );
}

/** A bed that has been drawn out past its sound can have more of it. */
function Longer({ clip }: { clip: Clip }) {
  const { media, clock } = useTools();
  const queries = useQueryClient();
  const { edit, tell } = useSession.getState();
  const [busy, setBusy] = useState(false);
  const line = media.get(clip.media);
  const sound = line?.info.sound;
  if (!line || !sound || !line.name.endsWith('.sound')) return null;
  const there = (sound.samples / sound.rate) * clock.sampleRate;
  const missing = (clip.source_start ?? 0) + clip.length - there;
  if (missing <= 0) return null;
  const lengthen = async () => {
    setBusy(true);
    try {
      const { media: longer } = await unwrap(
        client.POST('/api/sounds/longer', {
          body: {
            media: line.id,
            seconds: ((clip.source_start ?? 0) + clip.length) / clock.sampleRate,
          },
        }),
      );
      await queries.invalidateQueries({ queryKey: ['media'] });
      await edit({
        kind: 'relink_medium',
        id: clip.media,
        to: longer.id,
        path: longer.name,
      });
    } catch (error) {
      tell((error as Error).message);
    } finally {
      setBusy(false);
    }
  };
  return (
    <p className="small">
      The sound runs out {(missing / clock.sampleRate).toFixed(1)} s before the clip ends.{' '}
      <Button size="compact-xs" variant="default" loading={busy} onClick={() => void lengthen()}>
        Make it longer
      </Button>
    </p>
  );
}
