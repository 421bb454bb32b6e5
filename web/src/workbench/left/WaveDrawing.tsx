import { Button } from '@mantine/core';
import { memo, useEffect, useState } from 'react';
import { client, unwrap } from '../../api/client';
import { useSession } from '../../reel/session';
import { useTools } from '../context';
import { EffectDrawing } from './drawing/EffectDrawing';
import type { DrawingData } from './drawing/useDrawing';

const NONE = { owner: '', effect: '' };

/** On request: the level with and without treatments over the stretch and its ring-out. */
export const WaveDrawing = memo(function WaveDrawing({ owner }: { owner: string }) {
  const { reel } = useTools();
  const revision = useSession((s) => s.revision);
  const [shown, setShown] = useState(false);
  const [drawing, setDrawing] = useState<DrawingData | null>(null);
  useEffect(() => {
    if (!shown) return;
    let latest = true;
    unwrap(
      client.POST('/api/reels/{id}/wave', {
        params: { path: { id: reel } },
        body: { owner, seen: revision },
      }),
    ).then(
      (answer) => {
        if (latest) setDrawing(answer.drawing);
      },
      () => undefined, // The last one stays; the next edit asks again.
    );
    return () => {
      latest = false;
    };
  }, [shown, reel, owner, revision]);
  return (
    <div>
      <Button size="compact-xs" variant="subtle" onClick={() => setShown(!shown)}>
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
