import { NumberInput, Popover, Stack, UnstyledButton, VisuallyHidden } from '@mantine/core';
import { IconVolume } from '@tabler/icons-react';
import { LoudnessNow, MeterBars, MeterPanel } from '../listening/MeterPanel';
import { HandSlider } from '../fields/HandSlider';
import { usePlayer } from '../../player/player';
import { useTools } from '../tools/context';

/** Meters; behind them all that is measured, the output volume and the headphone delay. */
export function OutputMenu() {
  const { player } = useTools();
  const volume = usePlayer((s) => s.volume);
  const delay = usePlayer((s) => s.delay);
  return (
    <Popover position="bottom-end" width={330} withArrow>
      <Popover.Target>
        <UnstyledButton className="pill output">
          <VisuallyHidden>Meters, output volume and headphone delay</VisuallyHidden>
          <IconVolume size={16} />
          <MeterBars />
          <LoudnessNow />
        </UnstyledButton>
      </Popover.Target>
      <Popover.Dropdown>
        <Stack gap="md">
          <MeterPanel />
          <div>
            <div className="output-volume">
              <span>Output volume</span>
              <span className="number quiet">{Math.round(volume * 100)} %</span>
            </div>
            <HandSlider
              thumbLabel="Output volume"
              min={0}
              max={100}
              value={Math.round(volume * 100)}
              valueText={`${Math.round(volume * 100)} %`}
              turn={(v) => player.setVolume(v / 100)}
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
