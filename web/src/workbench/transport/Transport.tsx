import { Button, SegmentedControl, Tooltip } from '@mantine/core';
import { usePlayer } from '../../player/player';
import { useTools } from '../tools/context';
import { useSelection } from '../selected/selection';
import { Compare } from '../listening/Compare';
import { useTransport } from './transport';
import { GoTo } from './GoTo';

/** How it plays, from where, and which sound is heard. */
export function Transport() {
  const { player } = useTools();
  const playing = usePlayer((s) => s.playing);
  const loop = usePlayer((s) => s.loop);
  const selected = useSelection((s) => s.selection.kind !== 'none');
  const transport = useTransport();
  return (
    <div className="transport-bar" role="group" aria-label="Transport">
      <div className="transport">
        <Step label="⇤ cut" name="Previous cut" onClick={() => transport.toCut(-1)} />
        <Step label="−1 f" name="One frame back" onClick={() => transport.step(-1)} />
        <Button className="solid play" size="xs" onClick={() => player.toggle()}>
          {playing ? '❚❚ Pause' : '▶ Play'}
        </Button>
        <Step label="+1 f" name="One frame on" onClick={() => transport.step(1)} />
        <Step label="cut ⇥" name="Next cut" onClick={() => transport.toCut(1)} />
        <Tooltip
          label={
            loop
              ? 'Stop looping'
              : selected
                ? 'Loop what is selected'
                : 'Drag a range or select something to loop it'
          }
        >
          <Button
            size="xs"
            variant={loop ? 'filled' : 'default'}
            aria-pressed={loop !== undefined}
            onClick={() => transport.toggleLoop()}
          >
            Loop
          </Button>
        </Tooltip>
      </div>
      <Tooltip label="Play two seconds either side of the nearest cut (Enter)">
        <Button size="xs" px={10} variant="default" onClick={() => transport.aroundCut()}>
          Around cut
        </Button>
      </Tooltip>
      <Speeds />
      <GoTo />
      <span className="grow" />
      <Compare />
    </div>
  );
}

/** Half, whole and double speed, the pitch held. */
function Speeds() {
  const { player } = useTools();
  const speed = usePlayer((s) => s.speed);
  return (
    <SegmentedControl
      size="xs"
      aria-label="Speed of play"
      value={String(speed)}
      onChange={(value) => player.setSpeed(Number(value))}
      data={[
        { value: '0.5', label: '½×' },
        { value: '1', label: '1×' },
        { value: '2', label: '2×' },
      ]}
    />
  );
}

function Step({ label, name, onClick }: { label: string; name: string; onClick: () => void }) {
  return (
    <Tooltip label={name}>
      <Button size="xs" variant="default" onClick={onClick} aria-label={`${label}: ${name}`}>
        {label}
      </Button>
    </Tooltip>
  );
}
