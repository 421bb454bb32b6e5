/** What a lane's value really is, as far as its treatment is engaged; computed by the server. */
import { useDebouncedValue } from '@mantine/hooks';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { client, unwrap } from '../../api/client';
import { useSession } from '../../reel/session';
import { useTools } from '../tools/context';
import { shareIn, type Lane } from './lanes';

const STEP_PX = 3;
const SETTLE_MS = 80;
/** Lines that have been seen are kept for so long. */
const KEPT_MS = 60_000;

export interface Effective {
  start: number;
  end: number;
  values: number[];
}

/** Nothing where the lane's own line is what applies. */
export function useEffective(
  lane: Lane,
  start: number,
  end: number,
  width: number,
): Effective | undefined {
  const { reel } = useTools();
  const revision = useSession((s) => s.revision);
  const { name } = lane;
  const first = Math.max(0, Math.floor(start));
  const last = Math.ceil(end);
  const places = Math.max(2, Math.min(1000, Math.ceil(width / STEP_PX)));
  // While the view glides nothing is asked for.
  const [wanted] = useDebouncedValue(`${first} ${last} ${places}`, SETTLE_MS);
  const { data } = useQuery({
    queryKey: ['effective', reel, name, wanted, revision],
    queryFn: async () => {
      const [start, end, places] = wanted.split(' ').map(Number) as [number, number, number];
      const path = { params: { path: { id: reel } } };
      const body = { lane: name, start, end, places, seen: revision };
      const { values } = await unwrap(client.POST('/api/reels/{id}/effective', { ...path, body }));
      return values ? { start, end, values } : null;
    },
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    gcTime: KEPT_MS,
  });
  return data ?? undefined;
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
