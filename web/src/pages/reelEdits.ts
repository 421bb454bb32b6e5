/** What is done to whole reels in their list. */
import { notifications } from '@mantine/notifications';
import { useQueryClient } from '@tanstack/react-query';
import { client, unwrap, type Schemas } from '../api/client';

type Line = Schemas['ReelLine'];

export function useReelEdits() {
  const queries = useQueryClient();
  const then = (work: Promise<unknown>, said = '') =>
    void work
      .then(() => said && notifications.show({ message: said }))
      .catch((error: Error) => notifications.show({ message: error.message, color: 'red' }))
      .finally(() => queries.invalidateQueries({ queryKey: ['reels'] }));
  const path = ({ id }: Line) => ({ params: { path: { id } } });
  return {
    rename: (reel: Line, name: string) =>
      then(
        unwrap(
          client.POST('/api/reels/{id}/edits', {
            ...path(reel),
            body: {
              edit_id: crypto.randomUUID(),
              base: reel.revision,
              commands: [{ kind: 'rename_reel', name }],
            },
          }),
        ),
      ),
    duplicate: (reel: Line) => then(unwrap(client.POST('/api/reels/{id}/copy', path(reel)))),
    template: (reel: Line) =>
      then(
        unwrap(client.POST('/api/reels/{id}/template', path(reel))),
        `“New reel from ${reel.name}” asks for its files under Media & sounds.`,
      ),
    trash: (reel: Line) =>
      then(unwrap(client.DELETE('/api/reels/{id}', path(reel))), `“${reel.name}” is in the trash.`),
    restore: (reel: Line) => then(unwrap(client.POST('/api/reels/{id}/restore', path(reel)))),
  };
}
