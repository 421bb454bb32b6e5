import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { client, unwrap } from '../../api/client';
import { useSession } from '../../reel/session';
import { timeOrDay } from '../../ui/when';
import { useTools } from '../tools/context';

const VERBS: Record<string, string> = { edit: '', undo: 'Undid: ', redo: 'Redid: ' };

/** What was done to the reel, the newest first; one click goes back to any of it. */
export function History() {
  const id = useSession((s) => s.id);
  const revision = useSession((s) => s.revision);
  const { player } = useTools();
  const hear = ({ revision: then, title }: { revision: number; title: string }) => {
    player.setAgainst({ label: `After “${title}”`, state: { revision: then }, of: `was:${then}` });
    player.setSide('other');
  };
  const newest = useSession((s) => s.undo?.revision ?? 0);
  const history = useQuery({
    queryKey: ['history', id, revision],
    queryFn: () => unwrap(client.GET('/api/reels/{id}/history', { params: { path: { id } } })),
    placeholderData: (old) => old,
  });
  if (history.error) return <p className="trouble">{history.error.message}</p>;
  if (history.data?.length === 0) return <p className="quiet pad">Nothing has been done yet.</p>;
  return (
    <ol className="history" aria-label="History">
      {history.data?.map((entry) => (
        <li key={entry.revision}>
          <span>
            {VERBS[entry.kind]}
            {entry.title}
          </span>
          <span className="history-foot">
            <span className="quiet small">
              {entry.account} · {timeOrDay(entry.made)}
            </span>
            {entry.revision < revision && (
              <Button
                size="compact-xs"
                variant="subtle"
                aria-label={`Hear it as it was here: ${entry.title}`}
                onClick={() => hear(entry)}
              >
                Hear
              </Button>
            )}
            {entry.kind === 'edit' && entry.revision < newest && (
              <Button
                size="compact-xs"
                variant="subtle"
                aria-label={`Back to here: ${entry.title}`}
                onClick={() => void useSession.getState().backTo(entry.revision)}
              >
                Back to here
              </Button>
            )}
          </span>
        </li>
      ))}
    </ol>
  );
}
