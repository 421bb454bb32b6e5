import { ActionIcon, SegmentedControl } from '@mantine/core';
import { IconX } from '@tabler/icons-react';
import { useEffect } from 'react';
import type { Track, Treatment } from '../../reel/document';
import { useTools } from '../tools/context';
import { useSelection } from '../selected/selection';
import { ClipPaper } from '../clips/ClipPaper';
import { useMagnified } from './magnified';
import { ShownAt, useShown, useShownX } from '../axis/shown';
import { TreatmentView } from './TreatmentView';
import { useReel } from '../../reel/useReel';

const WIDTH = 396;
const FRAME_PX = 9;
const CLIPS = 18;
const ROW = 36;

interface Props {
  track: Track;
  treatment: Treatment;
  path: string;
}

/** An edge of a short treatment, frames wide enough to take hold of them. */
export function Magnifier({ track, treatment, path }: Props) {
  const { clock } = useTools();
  const all = useReel((d) => d.picture?.cuts);
  const { width } = useShown();
  const x = useShownX();
  const edge = useMagnified((s) => s.edge);
  const chosen = useSelection(
    ({ selection: s }) => s.kind === 'treatment' && s.id === treatment.id,
  );
  const close = () => useMagnified.setState({ id: undefined });
  useEffect(() => {
    if (!chosen) close();
  }, [chosen]);
  useEffect(() => {
    const key = (e: KeyboardEvent) => {
      if (e.key !== 'Escape') return;
      e.stopPropagation();
      close();
    };
    window.addEventListener('keydown', key, true);
    return () => window.removeEventListener('keydown', key, true);
  }, []);
  const end = treatment.start + treatment.length;
  const frame = clock.sampleRate / clock.framesPerSecond;
  const scale = frame / FRAME_PX;
  const room = WIDTH * scale;
  // All of it, if it fits with some frames around it; else the frames around one edge.
  const whole = treatment.length + 8 * frame <= room;
  const middle = whole
    ? treatment.start + treatment.length / 2
    : edge === 'start'
      ? treatment.start
      : end;
  const start = middle - room / 2;
  const px = x(middle);
  const left = Math.max(2, Math.min(width - WIDTH - 4, px - WIDTH / 2));
  const at = (sample: number) => (sample - start) / scale;
  const first = clock.frameOfSample(Math.max(0, start));
  const frames = Array.from({ length: Math.ceil(WIDTH / FRAME_PX) + 1 }, (_, i) => first + i);
  const cuts = (all ?? []).filter((f) => frames.includes(f));
  return (
    <section
      className="magnifier"
      aria-label={`Magnified: ${treatment.name || 'treatment'}`}
      style={{ left, width: WIDTH }}
      onPointerDown={(e) => e.stopPropagation()}
    >
      <div className="magnifier-head">
        <span className="number small">{clock.timecode(Math.max(0, Math.round(middle)))}</span>
        <span className="grow" />
        {!whole && (
          <SegmentedControl
            size="xs"
            aria-label="Edge that is magnified"
            value={edge}
            onChange={(value) => useMagnified.setState({ edge: value as 'start' | 'end' })}
            data={[
              { value: 'start', label: 'Start' },
              { value: 'end', label: 'End' },
            ]}
          />
        )}
        <ActionIcon
          size={22}
          variant="subtle"
          color="gray"
          aria-label="Close the magnifier"
          onClick={close}
        >
          <IconX size={14} />
        </ActionIcon>
      </div>
      <div className="magnifier-body" style={{ height: CLIPS + ROW + 6 }}>
        <ShownAt start={start} scale={scale} width={WIDTH}>
          <ClipPaper clips={track.clips ?? []} height={CLIPS} top={0} />
          {frames.map((f) => (
            <span
              key={f}
              className="magnifier-frame"
              data-five={f % 5 === 0 || undefined}
              style={{ left: at(clock.sampleOfFrame(f)) }}
            />
          ))}
          {cuts.map((f) => (
            <span key={f} className="cut-line" style={{ left: at(clock.sampleOfFrame(f)) }} />
          ))}
          <TreatmentView magnified treatment={treatment} path={path} top={CLIPS + 3} height={ROW} />
        </ShownAt>
      </div>
    </section>
  );
}
