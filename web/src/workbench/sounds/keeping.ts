/** Sounds are kept as presets: as they are set on the shelf, or as they were laid. */
import { notifications } from '@mantine/notifications';
import type { QueryClient } from '@tanstack/react-query';
import { client, unwrap, type Schemas } from '../../api/client';
import { useSession } from '../../reel/session';
import type { WantedSound } from './shelf';

/** What the query of all presets is called. */
export const PRESETS = 'presets';

/** Keep a sound, as it is set on the shelf or as it was laid. */
export async function saveSound(
  queries: QueryClient,
  body: Schemas['TakenBed'],
  name: string,
): Promise<void> {
  const { tell } = useSession.getState();
  try {
    await unwrap(client.POST('/api/presets/bed', { body: { ...body, name } }));
    await queries.invalidateQueries({ queryKey: [PRESETS] });
    notifications.show({ message: `Saved as “${name}”, under Media & sounds, Presets.` });
  } catch (error) {
    tell((error as Error).message);
  }
}

/** A sound as it is set, without its name. */
export function asSet({ model, settings, seed, gainDb }: WantedSound): Schemas['TakenBed'] {
  return { model: model.id, settings, seed, gain_db: gainDb, name: '' };
}
