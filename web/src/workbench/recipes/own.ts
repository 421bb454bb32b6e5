/** Recipes of one's own: taken from what is selected, asking for the values that one chooses. */
import { queryOptions, useQueryClient } from '@tanstack/react-query';
import { client, unwrap, type Schemas } from '../../api/client';
import { useSession } from '../../reel/session';
import { attempt, OWN_RECIPES } from '../presets/changing';
import { treatmentsOf, useSelection } from '../selected/selection';
import { openShelf } from '../tools/leftTab';

export type OwnRecipe = Schemas['OwnRecipe'];
export type OwnValue = Schemas['ValueLine'];
export type Question = Schemas['Question'];

/** Those that words may mean; without words all of them. */
export function ownFound(text: string) {
  return queryOptions({
    queryKey: [OWN_RECIPES, text],
    queryFn: () => unwrap(client.GET('/api/recipes/own', { params: { query: { text } } })),
    placeholderData: (last: OwnRecipe[] | undefined) => last,
  });
}

/** All that a recipe may ask for. */
export function valuesOf(id: string) {
  return queryOptions({
    queryKey: [OWN_RECIPES, { values: id }],
    queryFn: () => unwrap(client.GET('/api/recipes/own/{id}/values', { params: { path: { id } } })),
    staleTime: Infinity,
  });
}

/** What a recipe would be made of: nothing else can be. */
function selectedNow() {
  const { selection } = useSelection.getState();
  if (selection.kind === 'clip') return { clip: selection.id };
  if (selection.kind === 'treatment') return { treatments: treatmentsOf(selection) };
  if (selection.kind === 'range') {
    const { tracks, start, end } = selection;
    return { tracks, start, end };
  }
  return undefined;
}

/** Makes a recipe of what is selected, and opens the shelf where one chooses what it asks. */
export function useMakeRecipe() {
  const queries = useQueryClient();
  return (name: string) =>
    attempt(async () => {
      const selected = selectedNow();
      if (!selected) return;
      const reel = useSession.getState().id;
      const nothing = { tracks: [], treatments: [], start: 0, end: 0 };
      const body = { ...nothing, reel, name, ...selected };
      const made = await unwrap(client.POST('/api/recipes/own', { body }));
      await queries.invalidateQueries({ queryKey: [OWN_RECIPES] });
      openShelf('recipes', made.preset.id, '');
    });
}

/** Let a recipe ask for a value that it has not asked for, or no longer. */
export function toggled(questions: readonly Question[], value: OwnValue): Question[] {
  const without = questions.filter((q) => !q.asks.includes(value.path));
  return without.length < questions.length
    ? without
    : [...questions, { label: value.parameter.label, asks: [value.path] }];
}

/** The same questions with another label for one of them. */
export function relabelled(
  questions: readonly Question[],
  asked: Question,
  label: string,
): Question[] {
  return questions.map((q) => (q === asked ? { ...q, label } : q));
}
