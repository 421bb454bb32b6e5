import { Modal, TextInput } from '@mantine/core';
import { IconSearch } from '@tabler/icons-react';
import { useId, useState, type KeyboardEvent } from 'react';
import { useFinding } from '../effects/finding';
import { useSelection } from '../selected/selection';
import { useAsked } from '../tools/asked';
import { shown } from '../keys/chord';
import { keysOfCommand, useKeyMap } from '../keys/keyMap';
import { commandsFor } from './searching';
import type { Commands } from './useCommands';

const MOST = 12;
/** Letters from which effects and presets are looked for too. */
const LEAST = 2;

interface Line {
  key: string;
  score: number;
  label: string;
  help: string;
  keys: string;
  run: () => void;
}

/** All commands, effects and presets by what they are called; Enter does the first. */
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
      yOffset="14vh"
    >
      <Search commands={commands} close={() => ask(undefined)} />
    </Modal>
  );
}

function Search({ commands, close }: { commands: Commands; close: () => void }) {
  const [text, setText] = useState('');
  const [active, setActive] = useState(0);
  const list = useId();
  const lines = useLines(text, commands);
  const chosen = lines[Math.min(active, lines.length - 1)];
  const run = (line: Line | undefined) => {
    if (!line) return;
    close();
    line.run();
  };
  const press = (e: KeyboardEvent) => {
    const by = e.key === 'ArrowDown' ? 1 : e.key === 'ArrowUp' ? -1 : 0;
    if (by) setActive((Math.min(active, lines.length - 1) + by + lines.length) % lines.length);
    else if (e.key === 'Enter') run(chosen);
    else return;
    e.preventDefault();
  };
  return (
    <>
      <TextInput
        data-autofocus
        role="combobox"
        aria-expanded="true"
        aria-controls={list}
        aria-activedescendant={chosen && `${list}-${chosen.key}`}
        aria-label="Search commands and effects"
        placeholder="split, fade, hall, keyframe …"
        leftSection={<IconSearch size={16} />}
        value={text}
        onChange={(e) => {
          setText(e.currentTarget.value);
          setActive(0);
        }}
        onKeyDown={press}
      />
      <div className="found-list" id={list} role="listbox" aria-label="What was found">
        {lines.map((line) => (
          <div
            key={line.key}
            id={`${list}-${line.key}`}
            ref={(item) => {
              if (line === chosen) item?.scrollIntoView({ block: 'nearest' });
            }}
            role="option"
            aria-selected={line === chosen}
            tabIndex={-1}
            onPointerDown={(e) => e.preventDefault()}
            onClick={() => run(line)}
            onKeyDown={press}
          >
            <span>
              {line.label}
              {line.help && <span className="small found-help">{line.help}</span>}
            </span>
            {line.keys && <kbd>{line.keys}</kbd>}
          </div>
        ))}
      </div>
      {lines.length === 0 && (
        <p className="quiet" role="status">
          No command or effect goes by that.
        </p>
      )}
    </>
  );
}

/** Commands at once, and effects as soon as the server has looked for them. */
function useLines(text: string, commands: Commands): Line[] {
  const changed = useKeyMap((s) => s.changed);
  const wanted = text.trim();
  const { hits } = useFinding(wanted, wanted.length >= LEAST);
  const nowhere = useSelection((s) => s.selection.kind === 'none' || s.selection.kind === 'keys');
  const { ask } = useAsked.getState();
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
  const effects = (wanted.length < LEAST ? [] : hits)
    .filter((hit) => hit.score > 1)
    .map((hit) => ({
      key: `${hit.effect}-${hit.preset.replace(/\W/g, '-')}`,
      score: hit.score,
      label: hit.label,
      help: `${hit.said || hit.help}${nowhere ? ' Select a clip or mark a range first.' : ''}`,
      keys: '',
      run: () => {
        if (!nowhere) ask('add-effect', hit.said ? text : hit.label);
      },
    }));
  return [...found, ...effects].sort((a, b) => b.score - a.score).slice(0, MOST);
}
