/** Pages of help, of effects, recipes, sounds and findings, by the words that are in them. */
import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import type { EffectTable } from '../../api/client';
import { checks, type Check } from '../listening/judgement';
import { openShelf } from '../tools/leftTab';
import { recipes, type Recipe } from '../recipes/recipes';
import { shelf, type Model, type Sound } from '../sounds/shelf';
import { useTools } from '../tools/context';
import { nearnessOf, split } from './searching';

export interface HelpPage {
  id: string;
  title: string;
  /** Paragraphs, each with what stands before it. */
  parts: [lead: string, text: string][];
  /** Goes to where it is used. */
  open?: () => void;
}

const TITLE = 45;
const TEXT = 15;
/** Words that stand in every other page find nothing. */
const SHORTEST = 3;

export function useHelpPages(): HelpPage[] {
  const { effects } = useTools();
  const { data: judged } = useQuery(checks);
  const { data: cooked } = useQuery(recipes);
  const { data: sounding } = useQuery(shelf);
  return useMemo(
    () => [
      ...effects.map(ofEffect),
      ...(cooked ?? []).map(ofRecipe),
      ...(sounding?.models ?? []).map((model) =>
        ofModel(
          model,
          sounding!.sounds.filter((sound) => sound.model === model.id),
        ),
      ),
      ...(judged ?? []).map(ofCheck),
    ],
    [effects, judged, cooked, sounding],
  );
}

function ofEffect({ id, label, help, advice }: EffectTable): HelpPage {
  return {
    id: `effect:${id}`,
    title: label,
    parts: [
      ['', help],
      ['Listen for', advice.listen],
      ['Begin with', advice.start],
      ['Not for', advice.avoid],
    ],
  };
}

function ofRecipe({ id, label, help, questions }: Recipe): HelpPage {
  return {
    id: `recipe:${id}`,
    title: label,
    parts: [['', help], ...questions.map((q): [string, string] => [q.label, q.help])],
    open: () => openShelf('recipes', id, label),
  };
}

/** One page for a model, with all the sounds that it makes. */
function ofModel({ id, label, help, parameters }: Model, sounds: readonly Sound[]): HelpPage {
  return {
    id: `sound:${id}`,
    title: label,
    parts: [
      ['', help],
      ...parameters.map((p): [string, string] => [p.label, p.help]),
      ['Ready to lay', sounds.map((sound) => sound.name).join(', ')],
    ],
    ...(sounds[0] && { open: () => openShelf('sounds', sounds[0]!.id, label) }),
  };
}

function ofCheck({ kind, label, help, thresholds }: Check): HelpPage {
  return {
    id: `check:${kind}`,
    title: label,
    parts: [
      ['', help],
      ...thresholds.map((t): [string, string] => [t.label, `${t.help} ${t.source}.`]),
    ],
  };
}

/** Pages in which all words of a text stand, the best first. */
export function pagesFor(
  pages: readonly HelpPage[],
  text: string,
): (HelpPage & { score: number })[] {
  const words = split(text).filter((word) => word !== 'help');
  if (!words.some((word) => word.length >= SHORTEST)) return [];
  return pages
    .map((page) => {
      const title = split(page.title);
      const all = split(page.parts.map(([, part]) => part).join(' '));
      const scores = words.map((word) =>
        Math.max(nearnessOf(word, title, TITLE), nearnessOf(word, all, TEXT)),
      );
      const score = Math.min(...scores) > 0 ? scores.reduce((a, b) => a + b, 0) / scores.length : 0;
      return { ...page, score };
    })
    .filter((page) => page.score > 0)
    .sort((a, b) => b.score - a.score);
}
