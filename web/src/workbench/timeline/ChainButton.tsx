import { Tooltip } from '@mantine/core';

interface Props {
  label: string;
  /** How many effects it holds. */
  count: number;
  chosen: boolean;
  onClick: () => void;
}

/** The treatment of a whole track or of the mix, in its head. */
export function ChainButton({ label, count, chosen, onClick }: Props) {
  return (
    <Tooltip label={label}>
      <button
        type="button"
        className="toggle chain-button"
        aria-label={label}
        aria-pressed={chosen}
        data-some={count > 0 || undefined}
        onClick={onClick}
      >
        {count > 0 ? `${count} effect${count > 1 ? 's' : ''}` : 'Treat'}
      </button>
    </Tooltip>
  );
}
