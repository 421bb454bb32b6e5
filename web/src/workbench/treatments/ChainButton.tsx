import { Tooltip } from '@mantine/core';

interface Props {
  /** What is treated: “all of Music”, “the mix”. */
  what: string;
  /** How many effects it holds. */
  count: number;
  chosen: boolean;
  onClick: () => void;
}

/** The treatment of a whole track or of the mix, in its head. */
export function ChainButton({ what, count, chosen, onClick }: Props) {
  const text = count > 0 ? `${count} effect${count > 1 ? 's' : ''}` : 'Treat';
  const label = count > 0 ? `${text} on ${what}` : `Treat ${what}`;
  // There is little room beside the level.
  const short = count > 0 ? `${count} fx` : text;
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
        {short}
      </button>
    </Tooltip>
  );
}
