import { NumberInput, Popover, Slider, Stack, UnstyledButton } from '@mantine/core';
import { IconVolume } from '@tabler/icons-react';
import { usePlayer } from '../../player/player';
import { useTools } from '../tools/context';

const FLOOR = -54;

function share(peak: number): number {
  const db = peak > 0 ? 20 * Math.log10(peak) : FLOOR;
  return Math.max(0, Math.min(1, 1 - db / FLOOR));
}

/** They move with every report of the player, and nothing else does with them. */
function Meters() {
  const peaks = usePlayer((s) => s.peaks);
  const over = Math.max(...peaks) > 1;
  return (
    <span className="meters" data-over={over || undefined}>
      {peaks.map((peak, side) => (
        <span key={side} className="meter">
          <span style={{ transform: `scaleX(${share(peak)})` }} />
        </span>
      ))}
    </span>
  );
}

/** Peak meters; behind them the output volume and the headphone delay. */
export function OutputMenu() {
  const { player } = useTools();
  const volume = usePlayer((s) => s.volume);
  const delay = usePlayer((s) => s.delay);
  return (
    <Popover position="bottom-end" width={280} withArrow>
      <Popover.Target>
        <UnstyledButton className="pill output" aria-label="Output volume and headphone delay">
          <IconVolume size={16} />
          <Meters />
        </UnstyledButton>
      </Popover.Target>
      <Popover.Dropdown>
        <Stack gap="md">
          <div>
            <div id="volume-label">Output volume</div>
            <Slider
              aria-labelledby="volume-label"
              min={0}
              max={100}
              value={Math.round(volume * 100)}
              onChange={(v) => player.setVolume(v / 100)}
              label={(v) => `${v} %`}
            />
            <p className="quiet small">For your ears only: exports keep their level.</p>
          </div>
          <NumberInput
            label="Headphone delay"
            description="If sound reaches your ears late, as with wireless headphones, the picture waits for it."
            suffix=" ms"
            min={0}
            max={600}
            step={5}
            value={delay}
            onChange={(v) => player.setDelay(Number(v) || 0)}
          />
        </Stack>
      </Popover.Dropdown>
    </Popover>
  );
}
