/** The drawing of an effect, computed by the server, as the playhead and the controls move. */
import { useDebouncedValue } from '@mantine/hooks';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { client, unwrap, type Schemas } from '../../../api/client';
import { usePlayer } from '../../../player/player';
import { useSession } from '../../../reel/session';
import type { Params } from '../../../reel/document';
import { useDrawn } from '../../../hand/connect';
import { useHand } from '../../../hand/gesture';
import { useTools } from '../../tools/context';

export type DrawingData = Schemas['DrawingData'];

const SETTLE_MS = 80;
/** Drawings that have been seen are kept for so long. */
const KEPT_MS = 60_000;
/** While playing, what moves is drawn again so often. */
const AGAIN_MS = 300;

/** The playhead, as often as a drawing wants to know of it. */
function usePlace(follow: boolean): number {
  const [place, setPlace] = useState(() => usePlayer.getState().position);
  useEffect(() => {
    let last = 0;
    return usePlayer.subscribe((state) => {
      const now = performance.now();
      if (state.playing && (!follow || now - last < AGAIN_MS)) return;
      last = now;
      setPlace(state.position);
    });
  }, [follow]);
  return place;
}

/** @param params The effect's parameters; while a hand is on it, its drawing comes with the draft. */
export function useDrawing(owner: string, effect: string, params: Params) {
  const { reel } = useTools();
  const mine = (of: { owner: string; effect: string } | undefined) =>
    of?.owner === owner && of.effect === effect;
  const inHand = useHand((s) => mine(s.drawing));
  const drafted = useDrawn((s) => (mine(s.of) ? s.drawing : undefined));
  const moves = Object.values(params).some((v) => typeof v === 'object' && 'keyframes' in v);
  const [shown, setShown] = useState<DrawingData | null | undefined>();
  const [known, setKnown] = useState(drafted);
  // Taken over while it renders, not after it: what hangs from it is drawn once.
  if (drafted !== known) {
    setKnown(drafted);
    if (drafted !== undefined) setShown(drafted);
  }
  const place = Math.round(usePlace(moves || Boolean(shown?.beneath)));
  const revision = useSession((s) => s.revision);
  const [wanted] = useDebouncedValue(JSON.stringify([place, revision, params]), SETTLE_MS);
  const { data } = useQuery({
    queryKey: ['drawing', reel, owner, effect, wanted],
    queryFn: () => {
      const [at, seen, params] = JSON.parse(wanted) as [number, number, Record<string, never>];
      const path = { params: { path: { id: reel } } };
      const body = { owner, effect, at, params, seen };
      return unwrap(client.POST('/api/reels/{id}/drawing', { ...path, body }));
    },
    enabled: !inHand,
    staleTime: Infinity,
    gcTime: KEPT_MS,
  });
  // The last drawing stays until another one has come.
  useEffect(() => {
    if (data && !inHand) setShown(data.drawing);
  }, [data, inHand]);
  return shown;
}
