/** Levels of a stretch of the reel as it is heard, as far as they are known. */
import { queryOptions } from '@tanstack/react-query';
import { client, unwrap } from '../../api/client';

interface Range {
  start: number;
  stop: number;
}

const AGAIN_MS = 300;

export function levelsOf(reel: string, revision: number, range: Range | undefined) {
  return queryOptions({
    queryKey: ['levels', reel, revision, range?.start, range?.stop],
    queryFn: async () => {
      const body = { sides: [{ commands: [], treated: true }], ...range! };
      const path = { params: { path: { id: reel } } };
      const [found] = await unwrap(client.POST('/api/reels/{id}/levels', { ...path, body }));
      return found!;
    },
    // What takes longer is gone on with when it is asked for again.
    refetchInterval: (query) => (query.state.data && query.state.data.share < 1 ? AGAIN_MS : false),
    enabled: range !== undefined,
    staleTime: Infinity,
  });
}
