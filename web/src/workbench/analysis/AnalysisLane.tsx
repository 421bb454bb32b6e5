import { memo, useEffect, useMemo, useRef, useState } from 'react';
import { findChain, spanOf, trackOfOwner, type ReelDocument } from '../../reel/document';
import { useReel } from '../../reel/useReel';
import { useSession } from '../../reel/session';
import { Following, useShown, useShownX } from '../axis/shown';
import { useTools } from '../tools/context';
import { AnalysisHead } from './AnalysisHead';
import { inksOf } from './inks';
import type { Box, KindTable } from './looks/look';
import { DECAY, useOpened, type Open } from './opened';
import { LABELS_PX } from './paint';
import type { Picture } from './picture';
import { useColumns, useKinds } from './useColumns';
import { useCursor } from './useCursor';
import { useTail } from './useTail';

const HEIGHT = 110;
const LARGE = 360;

/** Analyses that are open under a track, or of the mix. */
export const AnalysisLanes = memo(function AnalysisLanes({ track }: { track: string | undefined }) {
  const open = useOpened((s) => s.open);
  const here = useReel((d) => (open.length ? ofTrack(d, open, track) : ''));
  const kinds = useKinds();
  const shown = useMemo(
    () => open.filter((one) => here.split('\n').includes(one.name)),
    [open, here],
  );
  return shown.map((one) => {
    if (one.kind === DECAY) return <TailLane key={one.name} open={one} />;
    const kind = kinds.find((k) => k.id === one.kind);
    return kind && <ColumnLane key={one.name} open={one} kind={kind} />;
  });
});

/** Names of those that belong there; what is of something that has gone belongs nowhere. */
function ofTrack(reel: ReelDocument, open: Open[], track: string | undefined): string {
  return open
    .filter(({ of }) => findChain(reel, of) && trackOfOwner(reel, of)?.id === track)
    .map((one) => one.name)
    .join('\n');
}

function ColumnLane({ open, kind }: { open: Open; kind: KindTable }) {
  const { scale } = useShown();
  const picture = useColumns(open, kind, scale);
  return <Lane open={open} label={kind.label} picture={picture} />;
}

function TailLane({ open }: { open: Open }) {
  return <Lane open={open} label="Decay" picture={useTail(open)} />;
}

interface LaneProps {
  open: Open;
  label: string;
  picture: Picture;
}

function Lane({ open, label, picture }: LaneProps) {
  const { scheme } = useTools();
  const x = useShownX();
  const { start, scale, width } = useShown();
  const of = useReel((d) => findChain(d, open.of)?.name ?? '');
  const tail = useSession((s) => {
    const path = s.document && findChain(s.document, open.of)?.path;
    return path ? (s.derived?.tails[path] ?? 0) : 0;
  });
  const body = useRef<HTMLDivElement>(null);
  const frame = useRef<HTMLElement>(null);
  const [share, setShare] = useState(0);
  const busy = share < 1;
  const canvas = useRef<HTMLCanvasElement>(null);
  const marks = useRef<HTMLCanvasElement>(null);
  const height = open.large ? LARGE : HEIGHT;
  const box = useMemo<Box>(
    () => ({ top: 0, width, height, start, scale }),
    [width, height, start, scale],
  );
  useEffect(() => {
    for (const [element, paint, wide] of [
      [canvas.current, picture.paint, width],
      // No larger than they must be: the playhead moves over all of it.
      [marks.current, picture.label, LABELS_PX],
    ] as const) {
      const g = element?.getContext('2d');
      if (!element || !g) continue;
      const ratio = window.devicePixelRatio || 1;
      element.width = Math.round(wide * ratio);
      element.height = Math.round(height * ratio);
      g.scale(ratio, ratio);
      paint(g, box, inksOf(element, scheme));
    }
    setShare(picture.share(box));
  }, [picture, box, width, height, scheme]);
  useEffect(() => {
    if (open.large) frame.current?.scrollIntoView({ block: 'nearest' });
  }, [open.large]);
  const cursor = useCursor(picture, body, box);
  // Outside of what it is of and its tail there is something, but not of it.
  const inside = useReel((d) => insideOf(d, open, tail));
  const [from, to] = inside.split(' ').map(Number);
  return (
    <section
      className="analysis-lane"
      ref={frame}
      style={{ height }}
      aria-label={`${label} of ${of}`}
      data-analysis={open.name}
      aria-busy={busy}
    >
      <AnalysisHead open={open} label={label} of={of} picture={picture} box={box} />
      {/* Read by keys as by the pointer: where one is, and what stands there. */}
      <div
        className="analysis-body"
        ref={body}
        role="slider"
        aria-label={`${label} of ${of}: arrow keys read its values`}
        aria-valuemin={0}
        aria-valuemax={Math.round(start + width * scale)}
        aria-valuenow={Math.round(cursor.at?.sample ?? start)}
        aria-valuetext={cursor.text || 'no value read yet'}
        tabIndex={0}
        {...cursor.handlers}
      >
        <Following>
          <canvas ref={canvas} style={{ width, height }} aria-hidden="true" />
          {inside !== '' && (
            <>
              <span className="lane-outside" style={{ left: 0, width: Math.max(0, x(from!)) }} />
              <span className="lane-outside" style={{ left: Math.max(0, x(to!)), right: 0 }} />
            </>
          )}
          {cursor.at && (
            <span
              className="analysis-cursor"
              style={{ left: x(cursor.at.sample), top: `${100 * (1 - cursor.at.share)}%` }}
            />
          )}
        </Following>
        <canvas
          ref={marks}
          className="analysis-marks"
          style={{ width: LABELS_PX, height }}
          aria-hidden="true"
        />
        {picture.trouble ? (
          <p className="analysis-note small">{picture.trouble}</p>
        ) : (
          busy && (
            <p className="analysis-note measuring small">Measuring… {Math.floor(100 * share)} %</p>
          )
        )}
      </div>
    </section>
  );
}

function insideOf(reel: ReelDocument, open: Open, tail: number): string {
  if (open.range) return `${open.range.start} ${open.range.end}`;
  if (!/^(treatment|clip):/.test(open.of)) return '';
  const { start, end } = spanOf(reel, open.of);
  return `${start} ${end + tail}`;
}
