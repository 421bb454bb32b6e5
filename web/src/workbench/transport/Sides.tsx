import { SegmentedControl } from '@mantine/core';
import type { Side } from '../../player/messages';
import { usePlayer } from '../../player/player';
import { useTools } from '../tools/context';

/** Treated or untreated, flipped while playing. */
export function Sides() {
  const { player } = useTools();
  const side = usePlayer((s) => s.side);
  return (
    <SegmentedControl
      className="sides"
      size="xs"
      radius="xl"
      aria-label="Which sound is heard"
      title="Untreated leaves out all effects; speed and pitch of clips stay"
      value={side}
      onChange={(value) => player.setSide(value as Side)}
      data={[
        { value: 'untreated', label: 'Untreated' },
        { value: 'treated', label: 'Treated' },
      ]}
    />
  );
}
