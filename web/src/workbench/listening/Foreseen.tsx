import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useShallow } from 'zustand/react/shallow';
import { useSession } from '../../reel/session';
import { useTools } from '../tools/context';
import { figure } from '../values/values';
import { judgementOf } from './judgement';
import { levelsOf } from './levels';

interface Props {
  bits: string;
  /** Samples; all of it if there is none. */
  range: { start: number; stop: number } | undefined;
}

/** What an export will measure, what would be cut off in it, and which tracks are not in it. */
export function Foreseen({ bits, range }: Props) {
  const { reel } = useTools();
  const revision = useSession((s) => s.committed.revision);
  const { data } = useQuery(judgementOf(reel, revision));
  const part = useQuery(levelsOf(reel, revision, range));
  const { edit } = useSession.getState();
  const silent = useSession(
    useShallow((s) => {
      const tracks = s.document?.tracks ?? [];
      const solo = tracks.some((t) => t.solo);
      return tracks.filter((t) => t.mute || (solo && !t.solo)).map((t) => t.name ?? t.id);
    }),
  );
  const whole = part.data?.share === 1 ? part.data : undefined;
  const levels = range ? whole : data?.levels;
  const peak = levels?.true_peak ?? undefined;
  const clips = data?.findings.find((f) => f.kind === 'clipping' && f.of === 'mix');
  return (
    <div className="foreseen">
      {levels ? (
        <p>
          The file will measure {figure(levels.loudness)} LUFS, true peak {figure(levels.true_peak)}{' '}
          dBTP.
        </p>
      ) : (
        <p className="quiet" role="status">
          Measuring…
        </p>
      )}
      {peak !== undefined && peak > 0 && (
        <p className="trouble" role="alert">
          {bits === '32f'
            ? 'Its peaks lie above full scale: whoever plays it must turn it down.'
            : 'Its peaks lie above full scale and will be cut off.'}{' '}
          {clips?.cure && (
            <Button
              size="compact-xs"
              variant="default"
              onClick={() => void edit(clips.cure?.commands as never)}
            >
              {clips.cure.label}
            </Button>
          )}
        </p>
      )}
      {silent.length > 0 && (
        <p className="trouble">Not in it, for mute and solo: {silent.join(', ')}.</p>
      )}
    </div>
  );
}
