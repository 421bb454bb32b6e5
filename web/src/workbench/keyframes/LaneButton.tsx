import { ActionIcon, Tooltip } from '@mantine/core';
import { IconTimeline } from '@tabler/icons-react';
import { useOpenLanes } from './openLanes';

/** Opens the lane of a value beneath its track; filled while it is open. */
export function LaneButton({
  lane,
  label,
  moves,
}: {
  lane: string;
  label: string;
  moves: boolean;
}) {
  const open = useOpenLanes((s) => s.names.includes(lane));
  const toggle = useOpenLanes((s) => s.toggle);
  const text = open ? `Close the lane of ${label}` : `Keyframes of ${label}`;
  return (
    <Tooltip label={open ? text : `${text}: opens its lane`}>
      <ActionIcon
        className="lane-button"
        size={24}
        variant="subtle"
        color="gray"
        aria-label={text}
        aria-pressed={open}
        data-moves={moves || undefined}
        onClick={() => toggle(lane)}
      >
        <IconTimeline size={15} />
      </ActionIcon>
    </Tooltip>
  );
}
