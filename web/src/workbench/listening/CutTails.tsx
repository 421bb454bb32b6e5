import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { client, unwrap } from '../../api/client';
import { useSession } from '../../reel/session';
import { useTools } from '../tools/context';

/** Tails that the end of a range would cut, and how far it would have to go on to hold them. */
export function CutTails({ at, extend }: { at: number; extend: (until: number) => void }) {
  const { reel, clock } = useTools();
  const revision = useSession((s) => s.committed.revision);
  const { data } = useQuery({
    queryKey: ['ringing', reel, at, revision],
    queryFn: () =>
      unwrap(
        client.GET('/api/reels/{id}/ringing', { params: { path: { id: reel }, query: { at } } }),
      ),
    staleTime: Infinity,
  });
  if (!data?.length) return null;
  const until = Math.max(...data.map((tail) => tail.ends));
  const names = data.map((tail) => `“${tail.label}”`).join(', ');
  return (
    <p className="trouble" role="status">
      The end of the range cuts {data.length > 1 ? 'tails' : 'the tail'} of {names}.{' '}
      <Button size="compact-xs" variant="default" onClick={() => extend(until)}>
        Extend by {((until - at) / clock.sampleRate).toFixed(1)} s
      </Button>
    </p>
  );
}
