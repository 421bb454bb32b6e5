/** What a lane's value really is, as far as its treatment is engaged; computed by the server. */
import { useEffect, useState } from 'react';
import { client, unwrap } from '../../api/client';
import { useSession } from '../../reel/session';
import { useTools } from '../context';
import { shareIn, type Lane } from './lanes';

const STEP_PX = 3;
const SETTLE_MS = 80;

export interface Effective {
  start: number;
  end: number;
  values: number[];
}

/** Nothing where the lane's own line is what applies. */
export function useEffective(lane: Lane, start: number, end: number, width: number) {
  const { reel } = useTools();
  const revision = useSession((s) => s.revision);
  const [found, setFound] = useState<Effective | undefined>();
  const { name } = lane;
  useEffect(() => {
    let mine = true;
    const body = {
      lane: name,
      start: Math.max(0, Math.floor(start)),
      end: Math.ceil(end),
      places: Math.max(2, Math.min(1000, Math.ceil(width / STEP_PX))),
      seen: revision,
    };
    const timer = setTimeout(() => {
      unwrap(
        client.POST('/api/reels/{id}/effective', { params: { path: { id: reel } }, body }),
      ).then(
        ({ values }) => {
          if (!mine) return;
          setFound(values ? { start: body.start, end: body.end, values } : undefined);
        },
        () => undefined, // The last line stays; the next change asks again.
      );
    }, SETTLE_MS);
    return () => {
      mine = false;
      clearTimeout(timer);
    };
  }, [reel, revision, name, start, end, width]);
  return found;
}

/** The line of what applies, in the lane's own height. */
export function effectivePath(
  lane: Lane,
  found: Effective,
  x: (sample: number) => number,
  height: number,
  edge: number,
): string {
  const step = (found.end - found.start) / (found.values.length - 1);
  const dots = found.values.map((value, i) => {
    const y = edge + (1 - shareIn(lane, value)) * (height - 2 * edge);
    return `${x(found.start + i * step).toFixed(1)} ${y.toFixed(1)}`;
  });
  return `M${dots.join('L')}`;
}
