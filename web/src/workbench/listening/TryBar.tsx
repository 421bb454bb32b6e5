import { Button } from '@mantine/core';
import { useTools } from '../tools/context';
import { stopTrying, take, useTrying } from './trying';

/** What is being tried, and what becomes of it. */
export function TryBar() {
  const { player } = useTools();
  const pending = useTrying((s) => s.pending);
  if (!pending) return null;
  return (
    <span className="try-bar" role="status">
      <span className="small">Trying {pending.label}</span>
      <Button size="compact-xs" variant="default" onClick={() => void take(player)}>
        Use it (Enter)
      </Button>
      <Button size="compact-xs" variant="subtle" onClick={() => stopTrying(player)}>
        Cancel (Esc)
      </Button>
    </span>
  );
}
