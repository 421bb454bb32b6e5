/** Recipes: what they ask, where they would work, and the edits that they stand for. */
import { queryOptions } from '@tanstack/react-query';
import { client, unwrap, type Schemas } from '../../api/client';
import { MADE } from '../presets/changing';
import type { Place } from '../selected/place';

export type Recipe = Schemas['RecipeLine'];
export type Made = Schemas['RecipeMade'];
export type WorkedOut = Schemas['WorkedOut'];
export type Answers = Record<string, number | string>;

export const recipes = queryOptions({
  queryKey: ['recipes'],
  queryFn: () => unwrap(client.GET('/api/recipes')),
  staleTime: Infinity,
});

/** Ids of the recipes that words may mean, the best first. */
export function recipesFound(text: string) {
  return queryOptions({
    queryKey: ['recipes', text],
    queryFn: () => unwrap(client.GET('/api/recipes/found', { params: { query: { text } } })),
    staleTime: Infinity,
    enabled: text !== '',
    placeholderData: (last: string[] | undefined) => last,
  });
}

/** What recipes have made in a reel. */
export function madeIn(reel: string, revision: number) {
  return queryOptions({
    queryKey: [MADE, reel, revision],
    queryFn: () => unwrap(client.GET('/api/reels/{id}/made', { params: { path: { id: reel } } })),
    staleTime: Infinity,
    placeholderData: (last: Made[] | undefined) => last,
  });
}

/** The edits that a recipe stands for at a place. */
export function workOut(
  reel: string,
  recipe: string,
  answers: Answers,
  place: Place,
  trying: boolean,
  again?: string,
): Promise<WorkedOut> {
  return unwrap(
    client.POST('/api/reels/{id}/recipes/{recipe}', {
      params: { path: { id: reel, recipe } },
      body: { answers, place, trying, ...(again && { again }) },
    }),
  );
}

/** The answers that a recipe comes with: choices by their names. */
export function firstAnswers(recipe: Recipe): Answers {
  return Object.fromEntries(
    recipe.questions.map((q) => [
      q.id,
      q.choices.length ? q.choices[q.default ?? 0]! : (q.default ?? q.low),
    ]),
  );
}
