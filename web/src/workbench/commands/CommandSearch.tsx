import { Spotlight, spotlight } from '@mantine/spotlight';
import '@mantine/spotlight/styles.css';
import { useDebouncedValue } from '@mantine/hooks';
import { IconSearch } from '@tabler/icons-react';
import { useState } from 'react';
import { useFinding } from '../effects/finding';
import { useSelection } from '../selected/selection';
import { useAsked } from '../tools/asked';
import { shown } from './chord';
import { keysOfCommand, useKeyMap } from './keyMap';
import { commandsFor } from './searching';
import type { Commands } from './useCommands';

const MOST = 12;
const SETTLE_MS = 60;
/** Letters from which effects and presets are looked for too. */
const LEAST = 2;

/** All commands, effects and presets by what they are called; Enter does the first. */
export function CommandSearch({ commands }: { commands: Commands }) {
  const changed = useKeyMap((s) => s.changed);
  const [text, setText] = useState('');
  const [settled] = useDebouncedValue(text.trim(), SETTLE_MS);
  const { hits } = useFinding(settled, settled.length >= LEAST);
  const nowhere = useSelection((s) => s.selection.kind === 'none' || s.selection.kind === 'keys');
  const ask = useAsked((s) => s.ask);
  const effects = text.trim().length < LEAST ? [] : hits.filter((hit) => hit.score > 1);
  const found = [
    ...commandsFor(text)
      .filter((c) => c.id !== 'search')
      .map(({ id, name, score }) => ({
        key: id as string,
        score,
        label: name,
        description: undefined as string | undefined,
        right: keysOfCommand(changed, id).slice(0, 1).map(shown).join(''),
        run: () => void commands[id](),
      })),
    ...effects.map((hit) => ({
      key: `${hit.effect} ${hit.preset}`,
      score: hit.score,
      label: hit.label,
      description: nowhere ? 'Select a clip or mark a range to add it.' : hit.said || hit.help,
      right: '',
      run: () => {
        if (!nowhere) ask('add-effect', hit.values || hit.ramps ? text : hit.label);
      },
    })),
  ]
    .sort((a, b) => b.score - a.score)
    .slice(0, MOST);
  return (
    <Spotlight.Root
      shortcut={null}
      query={text}
      onQueryChange={setText}
      scrollable
      maxHeight={420}
      clearQueryOnClose
    >
      <Spotlight.Search
        leftSection={<IconSearch size={16} />}
        placeholder="Search commands and effects: split, fade, hall, keyframe …"
        aria-label="Search commands and effects"
      />
      <Spotlight.ActionsList>
        {found.map((action) => (
          <Spotlight.Action
            key={action.key}
            label={action.label}
            {...(action.description ? { description: action.description } : {})}
            rightSection={action.right ? <kbd>{action.right}</kbd> : undefined}
            onClick={() => {
              spotlight.close();
              action.run();
            }}
          />
        ))}
        {found.length === 0 && (
          <Spotlight.Empty>No command or effect goes by that.</Spotlight.Empty>
        )}
      </Spotlight.ActionsList>
    </Spotlight.Root>
  );
}
