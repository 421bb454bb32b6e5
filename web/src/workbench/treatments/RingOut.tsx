import { Menu, SegmentedControl, UnstyledButton } from '@mantine/core';
import { IconChevronDown } from '@tabler/icons-react';
import { memo } from 'react';
import { lengthFrom } from '../../typed/moments';
import type { Reading } from '../../typed/values';
import { useTools } from '../tools/context';
import { useReel } from '../../reel/useReel';
import { TypedField } from '../fields/TypedField';
import { RING_OUT } from '../keyframes/lanes';
import { useTogether } from '../selected/together';

interface Props {
  owner: string;
  /** As it is set. */
  ring: 'auto' | 'none' | number;
  /** Samples of ring-out as it is set. */
  tail: number;
  /** The sample after the owner's last. */
  end: number;
}

/** How long a chain is heard after its end: as long as it sounds, so long, or not. */
export const RingOut = memo(function RingOut({ owner, ring, tail, end }: Props) {
  const { clock } = useTools();
  const clips = useReel((d) => d.picture?.clips);
  const { edit } = useTogether(owner);
  const mode = typeof ring === 'number' ? 'fixed' : ring;
  const set = (ring_out: 'auto' | 'none' | number) =>
    void edit({ kind: 'set_chain', owner, ring_out });
  const seconds = (samples: number) => samples / clock.sampleRate;
  const frames = clock.frameOfSample(end + tail) - clock.frameOfSample(end);
  const read = (text: string): Reading => {
    const found = lengthFrom(clock, text, end, tail);
    const most = RING_OUT.high * clock.sampleRate;
    if (found.value === undefined || found.value <= most) return found;
    return { why: `the ring-out can be ${RING_OUT.high} s at most, not “${text.trim()}”` };
  };
  const lastOf = (parts: { start: number; length: number }[] = []) =>
    Math.max(0, ...parts.map((p) => p.start + p.length));
  const picture = lastOf(clips);
  const past = picture > 0 && end + tail > picture ? seconds(end + tail - picture) : 0;
  return (
    <div>
      <div className="ring-out">
        <span>Ring-out</span>
        <SegmentedControl
          size="xs"
          aria-label="Ring-out"
          value={mode}
          onChange={(value) =>
            set(value === 'fixed' ? Math.max(tail, 1) : (value as 'auto' | 'none'))
          }
          data={[
            { value: 'auto', label: 'Until silent' },
            { value: 'fixed', label: 'Fixed' },
            { value: 'none', label: 'Off' },
          ]}
        />
        <Menu position="bottom-end" width={200}>
          <Menu.Target>
            <UnstyledButton className="ring-to" aria-label="Ring out to …">
              <IconChevronDown size={15} />
            </UnstyledButton>
          </Menu.Target>
          <Menu.Dropdown>
            <Menu.Item onClick={() => void edit({ kind: 'ring_out_to', owner, to: 'cut' })}>
              To the next cut
            </Menu.Item>
            <Menu.Item onClick={() => void edit({ kind: 'ring_out_to', owner, to: 'marker' })}>
              To the next marker
            </Menu.Item>
          </Menu.Dropdown>
        </Menu>
        {mode === 'fixed' ? (
          <TypedField
            className="number"
            label="Seconds of ring-out"
            title={`${frames} f; it fades over its last quarter`}
            shown={`${seconds(tail).toFixed(2)} s`}
            read={read}
            keep={set}
            heard
          />
        ) : (
          <span className="number quiet small" title={`${frames} f`}>
            {seconds(tail).toFixed(1)} s
          </span>
        )}
      </div>
      {past > 0 && (
        <p className="small warning">
          It sounds {past.toFixed(1)} s longer than the picture; the export is as long as that.
        </p>
      )}
    </div>
  );
});
