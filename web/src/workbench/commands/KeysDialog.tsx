import { Button, Modal, Tooltip } from '@mantine/core';
import { useState, type KeyboardEvent } from 'react';
import { chordOf, shown } from '../keys/chord';
import { keysOfCommand, useKeyMap } from '../keys/keyMap';
import { GESTURES } from './gestures';
import { COMMANDS, type CommandId, type Spec } from '../keys/table';

const GROUPS: Spec['group'][] = [
  'Play',
  'Go',
  'Look',
  'Edit',
  'Move',
  'Keyframes',
  'Treat',
  'Reel',
];

/** All commands with their keys, which can be changed; they are kept with the account. */
export function KeysDialog({ opened, onClose }: { opened: boolean; onClose: () => void }) {
  const { changed, set, reset } = useKeyMap();
  const [waiting, setWaiting] = useState<CommandId | undefined>();
  const [trouble, setTrouble] = useState('');
  const keep = (work: Promise<void>) => {
    setTrouble('');
    work.catch(() => setTrouble('The keys could not be kept: the server does not answer.'));
  };
  const press = (id: CommandId) => (e: KeyboardEvent) => {
    if (waiting !== id) return;
    e.preventDefault();
    e.stopPropagation();
    const chord = chordOf(e);
    if (!chord) return;
    setWaiting(undefined);
    if (chord === 'Escape' && id !== 'nothing') return;
    if (chord === 'Backspace' && id !== 'remove') keep(set(id, []));
    else keep(set(id, [chord]));
  };
  const taken = (id: CommandId) => (waiting === id ? 'Press the new key' : undefined);
  return (
    <Modal
      opened={opened}
      onClose={onClose}
      title="Keyboard shortcuts and gestures"
      size="xl"
      closeOnEscape={!waiting}
    >
      <p className="quiet small">
        Click a key to give the command another; Backspace leaves it without one. They are kept with
        your account. In fields and lists, the arrow keys belong to what is in focus.
      </p>
      {trouble && <p className="trouble">{trouble}</p>}
      <div className="key-page">
        {GROUPS.map((group) => (
          <section key={group}>
            <h3>{group}</h3>
            {COMMANDS.filter((c) => c.group === group).map((command) => {
              const keys = keysOfCommand(changed, command.id);
              return (
                <div key={command.id} className="key-line">
                  <span>{command.name}</span>
                  <Tooltip label="Click, then press another key">
                    <button
                      type="button"
                      className="key-cap"
                      aria-label={`${taken(command.id) ?? (keys.map(shown).join(', ') || '–')}, keys of: ${command.name}`}
                      data-waiting={waiting === command.id || undefined}
                      onClick={() => setWaiting(command.id)}
                      onBlur={() => setWaiting(undefined)}
                      onKeyDown={press(command.id)}
                    >
                      {taken(command.id) ?? (keys.map(shown).join(', ') || '–')}
                    </button>
                  </Tooltip>
                </div>
              );
            })}
          </section>
        ))}
      </div>
      <section className="gestures">
        <h3>With the mouse or a pen</h3>
        <dl>
          {GESTURES.map(([what, how]) => (
            <div key={what} className="key-line">
              <dt>{what}</dt>
              <dd>{how}</dd>
            </div>
          ))}
        </dl>
      </section>
      <Button
        variant="default"
        size="xs"
        disabled={Object.keys(changed).length === 0}
        onClick={() => keep(reset())}
      >
        All keys as usual
      </Button>
    </Modal>
  );
}
