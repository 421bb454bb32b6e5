/** Commands found by what editors call them; scores are those of core/typed/search.py. */
import { COMMANDS, type CommandId, type Spec } from '../keys/table';

const CALLED = 100;
const [NAME, NAME_BEGUN] = [70, 60];
const [WORD, WORD_BEGUN] = [58, 40];
const OTHER_FORM = 0.9;
const SHORTEST_STEM = 4;
const ENDINGS = new Set(['d', 'ed', 'er', 'ing', 's', 'es', 'y', 'or', 'ation']);

export interface FoundCommand {
  id: CommandId;
  name: string;
  score: number;
}

/** The commands that all words of a text fit, the best first; without any, all of them. */
export function commandsFor(text: string): FoundCommand[] {
  const words = split(text);
  return COMMANDS.map((command: Spec & { id: CommandId }) => ({
    id: command.id,
    name: command.name,
    score: words.length ? scoreOf(words, command) : 1,
  }))
    .filter((found) => found.score > 0)
    .sort((a, b) => b.score - a.score);
}

function scoreOf(words: readonly string[], command: Spec): number {
  const name = split(command.name);
  if (words.join(' ') === name.join(' ')) return CALLED;
  const own = split(command.words ?? '');
  const scores = words.map((word) =>
    Math.max(
      ...name.map((other) => nearness(word, other, NAME, NAME_BEGUN)),
      ...own.map((other) => nearness(word, other, WORD, WORD_BEGUN)),
    ),
  );
  return Math.min(...scores) > 0 ? scores.reduce((a, b) => a + b, 0) / scores.length : 0;
}

function nearness(word: string, other: string, whole: number, begun: number): number {
  if (word === other) return whole;
  if (other.startsWith(word)) return begun;
  const stem = other.replace(/e$/, '');
  const form = word.startsWith(stem) && ENDINGS.has(word.slice(stem.length));
  return form && stem.length >= SHORTEST_STEM ? begun * OTHER_FORM : 0;
}

/** How near a word comes to the nearest of others: all of it, its beginning, another form. */
export function nearnessOf(word: string, others: readonly string[], whole: number): number {
  return Math.max(0, ...others.map((other) => nearness(word, other, whole, whole * 0.8)));
}

export function split(text: string): string[] {
  return text
    .toLowerCase()
    .split(/[^\p{L}\d]+/u)
    .filter(Boolean);
}
