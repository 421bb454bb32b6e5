import { shown } from './chord';
import { keysOfCommand, useKeyMap } from './keyMap';
import type { CommandId } from './table';

/** The key that a command has now, as menus show it. */
export function KeyOf({ command }: { command: CommandId }) {
  const key = useKeyMap((s) => keysOfCommand(s.changed, command)[0]);
  return key ? <kbd>{shown(key)}</kbd> : null;
}
