import { describe, expect, it, test } from 'vitest';
import { pagesFor } from './helpPages';
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

describe('pages of help', () => {
  const pages = [
    {
      id: 'effect:eq',
      title: 'Equaliser',
      parts: [
        ['', 'Raises and lowers parts of the spectrum.'],
        ['Begin with', '−3 dB around 300 Hz where a voice is boxy.'],
      ] as [string, string][],
    },
    { id: 'check:hum', title: 'Hum', parts: [['', 'Mains at 50 or 60 Hz.']] as [string, string][] },
  ];
  it.each([
    ['equaliser', 'effect:eq'],
    ['boxy voices', 'effect:eq'],
    ['hum', 'check:hum'],
    ['help mains', 'check:hum'],
  ])('are found by %s', (text, id) => {
    expect(pagesFor(pages, text)[0]?.id).toBe(id);
  });

  it('are not found by what does not stand in them', () => {
    expect(pagesFor(pages, 'reverb')).toEqual([]);
    expect(pagesFor(pages, 'a')).toEqual([]);
  });
});
