/** The drawing of an effect, computed by the server, as the playhead and the controls move. */
import { useEffect, useRef, useState } from 'react';
import { client, unwrap, type Schemas } from '../../../api/client';
import { usePlayer } from '../../../player/player';
import { useSession } from '../../../reel/session';
import type { Params } from '../../../reel/document';
import { useDrawn } from '../../../hand/connect';
import { useHand } from '../../../hand/gesture';
import { useTools } from '../../context';

export type DrawingData = Schemas['DrawingData'];

const SETTLE_MS = 80;
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
  const [drawing, setDrawing] = useState<DrawingData | null | undefined>();
  useEffect(() => {
    if (drafted !== undefined) setDrawing(drafted);
  }, [drafted]);
  const place = usePlace(moves || Boolean(drawing?.beneath));
  const wanted = JSON.stringify(params);
  const latest = useRef(0);
  useEffect(() => {
    const asked = ++latest.current;
    if (inHand) return undefined;
    const timer = setTimeout(() => {
      unwrap(
        client.POST('/api/reels/{id}/drawing', {
          params: { path: { id: reel } },
          body: {
            owner,
            effect,
            at: Math.round(place),
            params: JSON.parse(wanted) as Record<string, never>,
            seen: useSession.getState().revision,
          },
        }),
      ).then(
        (answer) => {
          if (asked === latest.current) setDrawing(answer.drawing);
        },
        () => undefined, // The last drawing stays; the next change asks again.
      );
    }, SETTLE_MS);
    return () => clearTimeout(timer);
  }, [reel, owner, effect, place, wanted, inHand]);
  return drawing;
}
