import type { PointerEvent } from 'react';
import { drag } from '../../hand/pointer';
import type { Clock } from '../../time/clock';
import { useTools } from '../tools/context';
import { useReadout } from './readout';
import { snap } from './snap';
import { targetsNow } from './targets';
import { useSeen } from './shown';

const MOVED_PX = 3;

interface Props {
  /** Whose ring-out it is, as `treatment:ID` or `clip:ID`. */
  owner: string;
  /** The sample after the owner's last, and how long it rings out after it. */
  end: number;
  tail: number;
  /** Samples a pixel that it is laid out for. */
  scale: number;
  left: number;
  top: number;
  height: number;
}

/** The end of a ring-out, taken hold of: it lasts so long from then on. */
export function TailGrip({ owner, end, tail, scale, left, top, height }: Props) {
  const { clock } = useTools();
  const { show } = useReadout.getState();
  const seen = useSeen();
  const begin = (e: PointerEvent<Element>) => {
    if (e.button !== 0) return;
    e.preventDefault();
    e.stopPropagation();
    const from = e.clientX;
    const perPixel = seen().scale;
    const targets = targetsNow(clock);
    let meant = false;
    drag(e, {
      moved: (m) => {
        meant ||= Math.abs(m.clientX - from) >= MOVED_PX;
        if (!meant) return undefined;
        const free = end + tail + (m.clientX - from) * perPixel;
        const found = snap(Math.max(end, free), targets, clock, perPixel, m.altKey);
        const ring_out = Math.max(0, found.sample - end);
        show({ sample: end + ring_out, to: found.to, text: textOf(clock, ring_out) });
        return [{ kind: 'set_chain', owner, ring_out: ring_out > 0 ? ring_out : 'none' }];
      },
      clicked: () => undefined,
      dropped: () => show(undefined),
      over: () => show(undefined),
    });
  };
  return (
    <span
      className="grip tail"
      data-grip="tail"
      title="Ring-out: drag to fix how long it lasts"
      style={{ left: left + tail / scale, top, height }}
      onPointerDown={begin}
    />
  );
}

function textOf(clock: Clock, samples: number): string {
  return samples > 0 ? `ring-out ${(samples / clock.sampleRate).toFixed(2)} s` : 'ring-out off';
}
