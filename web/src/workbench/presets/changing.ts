/** What is kept with the account is changed, shared and handed on alike, presets and recipes. */
import { useQueryClient } from '@tanstack/react-query';
import { client, unwrap, type Schemas } from '../../api/client';
import { useSession } from '../../reel/session';
import { PRESETS } from '../sounds/keeping';
import type { Preset } from './presets';

/** What the query of one's own recipes is called, and that of what any have made. */
export const OWN_RECIPES = 'own-recipes';
export const MADE = 'made';

/** Do something that the server may refuse: then it is said why. */
export function attempt(work: () => Promise<unknown>) {
  const { tell } = useSession.getState();
  void work().catch((error: unknown) => tell((error as Error).message));
}

/** Ask anew for all that is kept. */
export function useRefresh() {
  const queries = useQueryClient();
  return async () => {
    await Promise.all(
      [PRESETS, OWN_RECIPES, MADE].map((key) => queries.invalidateQueries({ queryKey: [key] })),
    );
  };
}

/** Change its name, note, tags, or whether it is a favourite. */
export function useChange({ id }: Preset) {
  const refresh = useRefresh();
  return (body: Schemas['Changed']) =>
    attempt(async () => {
      await unwrap(client.PATCH('/api/presets/{id}', { params: { path: { id } }, body }));
      await refresh();
    });
}

/** Words between commas. */
export function listOf(text: string): string[] {
  return text
    .split(',')
    .map((word) => word.trim())
    .filter(Boolean);
}
