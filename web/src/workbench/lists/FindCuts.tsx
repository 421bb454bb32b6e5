import { Button } from '@mantine/core';
import { useEffect, useRef, useState } from 'react';
import { client, unwrap } from '../../api/client';
import { foundCuts } from '../../reel/importing';
import { useSession } from '../../reel/session';
import { HandSlider } from '../fields/HandSlider';
import { useTools } from '../tools/context';
import { useReel } from '../../reel/useReel';

/** Find the picture's cuts again, more or less readily; those set by hand stay. */
export function FindCuts() {
  const { media, reel } = useTools();
  const clips = useReel((d) => d.picture?.clips);
  const edit = useSession((s) => s.edit);
  const pictures = [...new Set((clips ?? []).map((c) => c.media))].filter(
    (id) => media.get(id)?.info.picture,
  );
  const known = media.get(pictures[0] ?? '')?.info.picture?.sensitivity ?? 0.5;
  const [wanted, setWanted] = useState<number | undefined>();
  const [trouble, setTrouble] = useState('');
  const waiting = useRef<number | undefined>(undefined);
  const [busy, setBusy] = useState(false);

  useEffect(() => {
    // The job is done when the medium says that it was done with the wanted sensitivity.
    if (waiting.current === undefined || known !== waiting.current) return;
    waiting.current = undefined;
    setBusy(false);
    void foundCuts(reel).then((command) => command && edit(command));
  }, [known, reel, edit]);

  if (!pictures.length) return null;
  const shown = wanted ?? known;
  const find = async () => {
    setTrouble('');
    try {
      if (shown === known) {
        const command = await foundCuts(reel);
        if (command) await edit(command);
        else setTrouble('No cuts were found; move the slider to the right to find fainter ones.');
        return;
      }
      setBusy(true);
      waiting.current = shown;
      for (const id of pictures)
        await unwrap(
          client.POST('/api/media/{id}/cuts', {
            params: { path: { id } },
            body: { sensitivity: shown },
          }),
        );
    } catch (error) {
      setBusy(false);
      waiting.current = undefined;
      setTrouble((error as Error).message);
    }
  };
  return (
    <div className="find-cuts">
      <span className="quiet small">fewer</span>
      <HandSlider
        min={0}
        max={1}
        step={0.05}
        value={shown}
        turn={setWanted}
        thumbLabel="Readiness to find a cut"
      />
      <span className="quiet small">more</span>
      <Button size="compact-xs" variant="default" loading={busy} onClick={() => void find()}>
        Find cuts
      </Button>
      {trouble && (
        <p className="trouble" role="alert">
          {trouble}
        </p>
      )}
    </div>
  );
}
