import { expect, test } from 'vitest';
import { commandsFor } from './searching';
import { COMMANDS } from '../keys/table';

// What editors call things (common practice), and what they mean by it: first or second.
const WORDS: Record<string, string> = {
  chop: 'split', divide: 'split', slice: 'split', merge: 'join', 'pull up': 'remove-gap',
  delete: 'remove', clone: 'duplicate', revert: 'undo', reset: 'reset-effects', fade: 'fade-in',
  'fade out': 'fade-out', quieter: 'lower', louder: 'raise', crop: 'trim-start', 'out point': 'trim-end',
  bypass: 'side', compare: 'side', automation: 'keyframe', envelope: 'lane-level', cue: 'marker',
  tempo: 'beat-back', beat: 'beat-back', render: 'export', bounce: 'export', shortcuts: 'keys',
  hotkeys: 'keys', fx: 'add-effect', plugin: 'add-effect', magnify: 'zoom-selection', ease: 'soften',
  transient: 'onset-back', slip: 'slip-back', nudge: 'move-back', cycle: 'loop', slow: 'fit-cut',
  backwards: 'reverse', 'next cut': 'cut-on', 'next keyframe': 'key-on', deselect: 'nothing',
}; // prettier-ignore

test.each(Object.entries(WORDS))('%s', (word, id) => {
  expect(
    commandsFor(word)
      .slice(0, 2)
      .map((found) => found.id),
  ).toContain(id);
});

test('every command is found first by its own name', () => {
  for (const command of COMMANDS) expect(commandsFor(command.name)[0]?.id).toBe(command.id);
});

test('nothing typed shows all of them, nonsense none', () => {
  expect(commandsFor('')).toHaveLength(COMMANDS.length);
  expect(commandsFor('frobnicate')).toEqual([]);
});
