import { Modal } from '@mantine/core';
import { IconSearch } from '@tabler/icons-react';
import { useState } from 'react';
import { lineOf, useFinding, type Hit } from '../effects/finding';
import { Finder, type FoundLine } from '../fields/Finder';
import { shown } from '../keys/chord';
import { keysOfCommand, useKeyMap } from '../keys/keyMap';
import { useSelection } from '../selected/selection';
import { useAsked } from '../tools/asked';
import { pagesFor, useHelpPages } from './helpPages';
import { useShelfLines } from './shelfLines';
import { commandsFor } from './searching';
import type { Commands } from './useCommands';

const MOST = 12;
const MOST_PAGES = 4;
/** Letters from which effects and presets are looked for too. */
const LEAST = 2;

interface Line extends FoundLine {
  score: number;
  run: () => void;
}

/** All commands, effects, presets, recipes and sounds by their words; Enter does the first. */
export function CommandSearch({ commands }: { commands: Commands }) {
  const opened = useAsked((s) => s.asked?.what === 'search');
  const ask = useAsked((s) => s.ask);
  return (
    <Modal
      opened={opened}
      onClose={() => ask(undefined)}
      withCloseButton={false}
      padding="xs"
      size="lg"
      transitionProps={{ duration: 0 }}
    >
      <Search commands={commands} close={() => ask(undefined)} />
    </Modal>
  );
}

function Search({ commands, close }: { commands: Commands; close: () => void }) {
  const [text, setText] = useState('');
  const { lines, sure } = useLines(text, commands);
  return (
    <Finder
      label="Search everything"
      placeholder="split, fade, hall, phone, rain …"
      icon={<IconSearch size={16} />}
      text={text}
      type={setText}
      lines={lines}
      sure={sure}
      take={(line) => {
        close();
        line.run();
      }}
      nothing="Nothing matches."
    />
  );
}

/** Commands at once, and the rest as soon as the server has looked for it; `sure` waits for all. */
function useLines(text: string, commands: Commands) {
  const changed = useKeyMap((s) => s.changed);
  const wanted = text.trim();
  const asks = wanted.length >= LEAST;
  const effects = useFinding(wanted, asks);
  const onShelf = useShelfLines(asks ? wanted : '');
  const nowhere = useSelection((s) => s.selection.kind === 'none' || s.selection.kind === 'keys');
  const { ask } = useAsked.getState();
  const late = asks && (effects.stale || onShelf.stale);
  const help = pagesFor(useHelpPages(), wanted)
    .slice(0, MOST_PAGES)
    .map(({ id, title, score, parts }) => ({
      key: `help:${id}`,
      // Where effects and sounds may still be found, it is not what is meant.
      stale: late,
      score,
      label: `Help: ${title}`,
      help: parts[0]![1],
      run: () => ask('help', id),
    }));
  const found = commandsFor(text)
    .filter((command) => command.id !== 'search')
    .map(({ id, name, score }) => ({
      key: id as string,
      score,
      label: name,
      help: '',
      keys: keysOfCommand(changed, id).slice(0, 1).map(shown).join(''),
      run: () => void commands[id](),
    }));
  const adding = (hits: readonly Hit[], stale = false) =>
    hits
      .filter((hit) => hit.score > 1)
      .map((hit) => ({
        ...lineOf(hit),
        stale,
        score: hit.score,
        ...(nowhere ? { why: 'Select a clip or mark a range to add it.' } : {}),
        run: () => ask('add-effect', hit.said ? text : hit.label),
      }));
  const best = (added: readonly Line[], shelved: readonly Line[]): Line[] =>
    [...found, ...added, ...shelved, ...help].sort((a, b) => b.score - a.score).slice(0, MOST);
  const sure = async () => {
    if (!asks) return best([], []);
    const [{ hits }, shelved] = await Promise.all([effects.sure(), onShelf.sure()]);
    return best(adding(hits), shelved);
  };
  const added = asks ? adding(effects.hits, effects.stale) : [];
  return { lines: best(added, onShelf.lines), sure };
}
