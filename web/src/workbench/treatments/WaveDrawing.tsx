import { Button } from '@mantine/core';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { memo, useState } from 'react';
import { client, unwrap } from '../../api/client';
import { useSession } from '../../reel/session';
import { useTools } from '../tools/context';
import { EffectDrawing } from '../effects/drawing/EffectDrawing';

/** What has been seen is kept for so long. */
const KEPT_MS = 60_000;
const NONE = { owner: '', effect: '' };

/** On request: the level with and without treatments over the stretch and its ring-out. */
export const WaveDrawing = memo(function WaveDrawing({ owner }: { owner: string }) {
  const { reel } = useTools();
  const revision = useSession((s) => s.revision);
  const [shown, setShown] = useState(false);
  const { data } = useQuery({
    queryKey: ['wave', reel, owner, revision],
    queryFn: () => {
      const path = { params: { path: { id: reel } } };
      const body = { owner, seen: revision };
      return unwrap(client.POST('/api/reels/{id}/wave', { ...path, body }));
    },
    enabled: shown,
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    gcTime: KEPT_MS,
  });
  const drawing = data?.drawing;
  return (
    <div>
      <Button size="compact-sm" variant="subtle" onClick={() => setShown(!shown)}>
        {shown ? 'Hide the treated level' : 'Show the treated level over the untreated'}
      </Button>
      {shown && drawing && (
        <EffectDrawing
          drawing={drawing}
          label="Treated over untreated"
          free={() => false}
          edits={() => []}
          drawn={NONE}
        />
      )}
    </div>
  );
});
