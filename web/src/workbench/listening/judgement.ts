/** What was found in the reel as it is: asked for again while it is being found out. */
import { queryOptions } from '@tanstack/react-query';
import { client, unwrap, type Schemas } from '../../api/client';

export type Judgement = Schemas['Judgement'];
export type Finding = Schemas['FindingSchema'];
export type Check = Schemas['CheckSchema'];

const AGAIN_MS = 700;

/** With a revision, of that one alone: what was found before is not shown for it. */
export function judgementOf(reel: string, revision?: number) {
  return queryOptions({
    queryKey: ['judgement', reel, ...(revision === undefined ? [] : [String(revision)])],
    queryFn: () =>
      unwrap(client.GET('/api/reels/{id}/findings', { params: { path: { id: reel } } })),
    refetchInterval: (query) => (query.state.data?.done === false ? AGAIN_MS : false),
    staleTime: Infinity,
  });
}

export const checks = queryOptions({
  queryKey: ['checks'],
  queryFn: () => unwrap(client.GET('/api/reels/checks')),
  staleTime: Infinity,
});
