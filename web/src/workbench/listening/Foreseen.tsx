import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useShallow } from 'zustand/react/shallow';
import { useSession } from '../../reel/session';
import { useTools } from '../tools/context';
import { judgementOf } from './judgement';

/** What an export will measure, what would be cut off in it, and which tracks are not in it. */
export function Foreseen({ bits }: { bits: string }) {
  const { reel } = useTools();
  const revision = useSession((s) => s.committed.revision);
  const { data } = useQuery(judgementOf(reel, revision));
  const { edit } = useSession.getState();
  const silent = useSession(
    useShallow((s) => {
      const tracks = s.document?.tracks ?? [];
      const solo = tracks.some((t) => t.solo);
      return tracks.filter((t) => t.mute || (solo && !t.solo)).map((t) => t.name ?? t.id);
    }),
  );
  const levels = data?.levels;
  const peak = levels?.true_peak ?? undefined;
  const clips = data?.findings.find((f) => f.kind === 'clipping' && f.of === 'mix');
  return (
    <div className="foreseen">
      {levels ? (
        <p>
          The file will have {text(levels.loudness)} LUFS and peaks at {text(levels.true_peak)}{' '}
          dBTP.
        </p>
      ) : (
        <p className="quiet" role="status">
          Measuring what the file will have…
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

function text(value: number | null): string {
  return value === null ? '—' : value.toFixed(1).replace('-', '−');
}
