/** Sounds of one's own: whole folders taken in, found by words, laid in any reel. */
import { queryOptions, type QueryClient } from '@tanstack/react-query';
import { client, unwrap, type Schemas } from '../../../api/client';
import { usePlayer } from '../../../player/player';
import { soundOf } from '../../../reel/importing';
import { useSession, type Command } from '../../../reel/session';
import type { Clock } from '../../../time/clock';
import { newId } from '../../../ui/ids';
import { trackSelected } from '../../media/laying';
import { useSelection } from '../../selected/selection';
import type { Laid } from '../laying';
import { isHeard } from '../making';

export type Own = Schemas['OwnLine'];

export const OWN = 'own-sounds';
/** So much of a long one is tried. */
export const LONGEST_TRIED_S = 30;

/** Those in whose name, folder or tags all of these words are. */
export function ownFound(text: string) {
  return queryOptions({
    queryKey: [OWN, text],
    queryFn: () => unwrap(client.GET('/api/sounds/own', { params: { query: { text } } })),
    placeholderData: (last: Schemas['OwnFound'] | undefined) => last,
    // What is being prepared tells its loudness a little later.
    refetchInterval: ({ state }) =>
      state.data?.sounds.some((s) => s.state === 'waiting' || s.state === 'preparing')
        ? 2000
        : false,
  });
}

/** One at the playhead, on the selected track or else on one of its own. */
export async function ownLaid(id: string, clock: Clock): Promise<Laid> {
  await isHeard(id, new AbortController().signal);
  const line = await unwrap(client.GET('/api/media/{id}', { params: { path: { id } } }));
  const known = useSession.getState().committed.document?.media?.some((m) => m.id === id);
  const track = trackSelected(useSelection.getState().selection);
  const clip = newId('c');
  const sound = soundOf(line);
  const frame = clock.frameOfSample(usePlayer.getState().position);
  const commands: Command[] = [
    ...(known ? [] : [{ kind: 'add_medium', medium: { id, path: line.name } }]),
    {
      kind: 'lay_sound',
      media: id,
      sound,
      clip,
      at: { frame },
      ...(track ? { track } : { new_track: newId('t') }),
    },
  ];
  const start = clock.sampleOfFrame(frame);
  const lasts = Math.min(LONGEST_TRIED_S * clock.sampleRate, sound.samples);
  return { commands, clip, span: { start, end: start + lasts } };
}

/** Lay it, and select what was laid. */
export async function layOwn(queries: QueryClient, id: string, clock: Clock): Promise<void> {
  const { commands, clip } = await ownLaid(id, clock);
  await unwrap(client.POST('/api/sounds/own/{id}/used', { params: { path: { id } } }));
  await queries.invalidateQueries({ queryKey: ['media'] });
  if (await useSession.getState().edit(commands))
    useSelection.getState().select({ kind: 'clip', id: clip });
}
