import { CloseButton } from '@mantine/core';
import { PARTS } from '../../player/monitor';
import { usePlayer } from '../../player/player';
import { useTools } from '../tools/context';

/** That not all of the sound is heard, for as long as that is so. */
export function PartPill() {
  const { player } = useTools();
  const part = usePlayer((s) => s.part);
  const marked = PARTS.find((p) => p.part === part)?.marked;
  if (!marked) return null;
  return (
    <span className="pill marked">
      {marked}
      <CloseButton size="sm" aria-label="Hear all of it" onClick={() => player.setPart('all')} />
    </span>
  );
}
