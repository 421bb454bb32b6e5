import { Spotlight } from '@mantine/spotlight';
import '@mantine/spotlight/styles.css';
import { IconSearch } from '@tabler/icons-react';
import { shown } from './chord';
import { keysOfCommand, useKeyMap } from './keyMap';
import { COMMANDS } from './table';
import type { Commands } from './useCommands';

const MOST = 12;

/** All commands by name, with their keys; Enter does the first. */
export function CommandSearch({ commands }: { commands: Commands }) {
  const changed = useKeyMap((s) => s.changed);
  return (
    <Spotlight
      shortcut={null}
      limit={MOST}
      nothingFound="No command is like that."
      searchProps={{
        leftSection: <IconSearch size={16} />,
        placeholder: 'Search commands: cut, keyframe, range …',
        'aria-label': 'Search commands',
      }}
      actions={COMMANDS.filter((c) => c.id !== 'search').map((command) => ({
        id: command.id,
        label: command.name,
        keywords: [command.group],
        rightSection: (
          <kbd>{keysOfCommand(changed, command.id).slice(0, 1).map(shown).join('')}</kbd>
        ),
        onClick: () => void commands[command.id](),
      }))}
    />
  );
}
