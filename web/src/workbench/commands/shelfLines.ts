/** What lies on the shelf, found by words beside commands and effects: taken, it is opened there. */
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { ownFound, type OwnRecipe } from '../recipes/own';
import { recipes, recipesFound, type Recipe } from '../recipes/recipes';
import { shelf, soundsFound, type Sound } from '../sounds/shelf';
import { openShelf, type View } from '../tools/leftTab';

const MOST = 3;
/** Below commands and effects of that name, above those that only have the word. */
const [FIRST, STEP] = [59, 3];

interface OnShelf {
  id: string;
  name: string;
  help: string;
}

/**
 * The best of the recipes and sounds that words may mean, as far as it has been answered; none
 * without words. `sure` waits for the answers to all of them.
 */
export function useShelfLines(text: string) {
  const asks = text !== '';
  const known = useQuery(recipes).data ?? [];
  const cooked = useQuery(recipesFound(text));
  const own = useQuery({ ...ownFound(text), enabled: asks });
  const { data: sounding } = useQuery(shelf);
  const laid = useQuery(soundsFound(text));
  const queries = useQueryClient();
  const sure = async () => {
    if (!asks) return [];
    const [all, ids, kept, { sounds }, heard] = await Promise.all([
      queries.fetchQuery(recipes),
      queries.fetchQuery(recipesFound(text)),
      queries.fetchQuery(ownFound(text)),
      queries.fetchQuery(shelf),
      queries.fetchQuery(soundsFound(text)),
    ]);
    return linesOf(all, ids, kept, sounds, heard);
  };
  const stale = [cooked, own, laid].some((found) => !found.data || found.isPlaceholderData);
  const lines = asks
    ? linesOf(known, cooked.data ?? [], own.data ?? [], sounding?.sounds ?? [], laid.data ?? [])
    : [];
  return { lines: lines.map((line) => ({ ...line, stale })), stale, sure };
}

function linesOf(
  known: readonly Recipe[],
  cooked: readonly string[],
  own: readonly OwnRecipe[],
  sounds: readonly Sound[],
  laid: readonly string[],
) {
  const byId = (id: string) => known.filter((recipe) => recipe.id === id);
  return [
    ...lines(
      'recipes',
      'Recipe',
      own.map(({ preset, recipe }) => ({ ...preset, help: recipe?.help ?? '' })),
    ),
    ...lines(
      'recipes',
      'Recipe',
      cooked.flatMap(byId).map(({ id, label, help }) => ({ id, name: label, help })),
    ),
    ...lines(
      'sounds',
      'Sound',
      laid.flatMap((id) => sounds.filter((sound) => sound.id === id)),
    ),
  ];
}

function lines(view: View, word: string, found: readonly OnShelf[]) {
  return found.slice(0, MOST).map(({ id, name, help }, place) => ({
    key: `${view}:${id}`,
    score: FIRST - STEP * place,
    label: `${word}: ${name}`,
    help,
    run: () => openShelf(view, id, name),
  }));
}
