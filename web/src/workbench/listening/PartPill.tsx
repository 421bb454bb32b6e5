import { CloseButton } from '@mantine/core';
import { PARTS } from '../../player/monitor';
import { usePlayer } from '../../player/player';
import { readValue, type Measured } from '../../typed/values';
import { TypedField } from '../fields/TypedField';
import { useTools } from '../tools/context';
import { formatValue } from '../values/values';

/** That not all of the sound is heard, for as long as that is so. */
export function PartPill() {
  const { player } = useTools();
  const part = usePlayer((s) => s.part);
  const marked = PARTS.find((p) => p.part === part)?.marked;
  if (!marked) return null;
  return (
    <span className="pill marked">
      {marked}
      {part === 'band' && <BandFields />}
      <CloseButton size="sm" aria-label="Hear all of it" onClick={() => player.setPart('all')} />
    </span>
  );
}

const LOWEST_HZ = 20;
const HIGHEST_HZ = 20_000;

/** From and to which frequency; they cannot pass each other. */
function BandFields() {
  const { player } = useTools();
  const [low, high] = usePlayer((s) => s.band);
  const field = (label: string, value: number, bounds: [number, number], index: 0 | 1) => {
    const measured = frequency(label, bounds);
    const keep = (hz: number) => player.setPart('band', index === 0 ? [hz, high] : [low, hz]);
    return (
      <TypedField
        className="number band-edge"
        label={label}
        shown={formatValue(measured, value)}
        read={(text) => readValue(measured, text)}
        keep={keep}
        nudge={(steps) =>
          keep(Math.round(Math.min(bounds[1], Math.max(bounds[0], value * 2 ** (steps / 12)))))
        }
      />
    );
  };
  return (
    <>
      {field('Lower edge of the band', low, [LOWEST_HZ, high], 0)}–
      {field('Upper edge of the band', high, [low, HIGHEST_HZ], 1)}
    </>
  );
}

function frequency(label: string, [low, high]: [number, number]): Measured {
  return { label, unit: 'Hz', low, high, scale: 'log', default: null, whole: false };
}
