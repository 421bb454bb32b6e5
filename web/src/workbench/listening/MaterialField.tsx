import { NativeSelect } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import type { Track } from '../../reel/document';
import { useSession } from '../../reel/session';
import { useTools } from '../tools/context';
import { judgementOf } from './judgement';

const NAMES = { speech: 'Speech', music: 'Music', bed: 'A bed or hits' };

/** What a track carries: as it sounds, or as one says. Findings and levels go by it. */
export function MaterialField({ track }: { track: Pick<Track, 'id' | 'material'> }) {
  const { reel } = useTools();
  const { edit } = useSession.getState();
  // What has been found so far: nothing is measured for this field alone.
  const { data } = useQuery({ ...judgementOf(reel), enabled: false });
  const heard = data?.materials[track.id];
  const byEar = heard ? `As it sounds: ${NAMES[heard.material].toLowerCase()}` : 'As it sounds';
  return (
    <div className="control choice">
      <span className="control-label" title="Findings and levels go by what a track carries">
        Carries
      </span>
      <NativeSelect
        size="xs"
        aria-label="What the track carries"
        value={track.material ?? ''}
        data={[
          { value: '', label: byEar },
          ...Object.entries(NAMES).map(([value, label]) => ({ value, label })),
        ]}
        onChange={(e) =>
          void edit({ kind: 'set_track', id: track.id, material: e.currentTarget.value })
        }
      />
    </div>
  );
}
