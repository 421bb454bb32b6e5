import { memo, useMemo, useRef, type PointerEvent, type ReactNode } from 'react';
import type { Clip, Track } from '../../reel/document';
import { follow } from '../../hand/pointer';
import { lengthText } from '../../time/clock';
import { useTools } from '../tools/context';
import { useInSight } from '../../ui/inSight';
import { useReorder } from '../../ui/Reorder';
import { AnalysisLanes } from '../analysis/AnalysisLane';
import { LaneView } from '../lanes/LaneView';
import { useLanesUnder } from '../keyframes/under';
import { draggedOn, useSelection, withPart } from '../selected/selection';
import { ClipView } from '../clips/ClipView';
import { laneUnder } from '../axis/laneUnder';
import { useReadout } from '../axis/readout';
import { snap } from '../axis/snap';
import { targetsNow } from '../axis/targets';
import { Magnifier } from '../treatments/Magnifier';
import { useMagnified } from '../treatments/magnified';
import { TrackHead } from './TrackHead';
import { TreatmentView } from '../treatments/TreatmentView';
import { ClipPaper, isNarrow, NarrowTreatments } from '../clips/ClipPaper';
import { rowsOf } from '../treatments/order';
import { NarrowHandles } from '../clips/NarrowHandles';
import { Following, useShown, useShownX } from '../axis/shown';
import { useView } from '../axis/view';
import { reelNow, useReel } from '../../reel/useReel';

/** Heights of clips, by the height of their track. */
const CLIPS = { low: 30, middle: 48, high: 96 };
const FOLDED = 34;
const ROW = 44;
const TOP = 5;
/** Room for what stands in the head. */
const LEAST = 66;
const MOVED_PX = 4;

/** A track at its place in the order; what it shows is drawn anew only when the track changes. */
export function TrackRow({ id, index }: { id: string; index: number }) {
  const name = useReel((d) => d.tracks?.[index]?.name);
  const order = useReorder(id, name ?? 'the track');
  return (
    <div ref={order.ref} style={order.style}>
      <TrackBody id={id} index={index} handle={order.handle} />
    </div>
  );
}

interface BodyProps {
  id: string;
  index: number;
  handle: ReactNode;
}

const TrackBody = memo(function TrackBody({ id, index, handle }: BodyProps) {
  const track = useReel((d) => d.tracks?.[index]);
  if (!track || track.id !== id) return null;
  return <Body track={track} index={index} handle={handle} />;
});

function Body({ track, index, handle }: Omit<BodyProps, 'id'> & { track: Track }) {
  const { clock, player } = useTools();
  const lane = useRef<HTMLDivElement>(null);
  const select = useSelection((s) => s.select);
  const show = useReadout((s) => s.show);
  const rows = useMemo(() => rowsOf(track.treatments ?? []), [track.treatments]);
  const depth = Math.max(1, ...[...rows.values()].map((r) => r + 1));
  const tall = track.folded ? FOLDED - 2 * TOP : CLIPS[track.height ?? 'middle'];
  const height = track.folded ? FOLDED : Math.max(LEAST, TOP * 2 + tall + depth * (ROW + 3));
  const lanes = useLanesUnder(track.id);
  const inSight = useInSight(lane, '.tracks');

  const down = (e: PointerEvent<HTMLDivElement>) => {
    if (e.button !== 0 || !lane.current) return;
    const box = lane.current.getBoundingClientRect();
    const clip = (e.target as HTMLElement).closest<HTMLElement>('[data-clip]')?.dataset['clip'];
    const { start, scale } = useView.getState();
    const sampleAt = (clientX: number) => start + (clientX - box.left) * scale;
    const targets = targetsNow(clock);
    const origin = snap(sampleAt(e.clientX), targets, clock, scale, e.altKey);
    const { selection } = useSelection.getState();
    const startX = e.clientX;
    let dragging = false;
    const move = (m: globalThis.PointerEvent) => {
      if (!dragging && Math.abs(m.clientX - startX) < MOVED_PX) return;
      dragging = true;
      const here = snap(sampleAt(m.clientX), targets, clock, scale, m.altKey);
      const a = Math.max(0, Math.min(origin.sample, here.sample));
      const b = Math.max(origin.sample, here.sample);
      show({
        sample: here.sample,
        to: here.to,
        text: `${clock.timecode(here.sample)} · ${lengthText(clock, b - a)}`,
      });
      // Over how many tracks it goes is how many it takes in.
      const tracks = tracksBetween(track.id, laneUnder(m)?.dataset['track']);
      if (b > a) select({ kind: 'range', tracks, start: a, end: b });
    };
    const up = () => {
      show(undefined);
      if (dragging) return;
      // To reach a clip's effects is no reason to go elsewhere.
      if (!clip)
        player.seek(clock.sampleOfFrame(clock.frameOfSample(Math.max(0, sampleAt(startX)))));
      if (clip && e.shiftKey) select(withPart(selection, { kind: 'clip', id: clip }));
      else select(clip ? { kind: 'clip', id: clip } : { kind: 'none' });
    };
    const lost = () => {
      show(undefined);
      select(selection);
    };
    follow(e, { moved: move, up, lost });
  };

  return (
    <>
      <section className="track" style={{ height }} aria-label={`Track ${track.name ?? ''}`}>
        <TrackHead id={track.id} index={index} handle={handle} />
        <div className="lane" ref={lane} onPointerDown={down} data-track={track.id} data-heard>
          {inSight && (
            <>
              <Following>
                <TrackParts track={track} index={index} tall={tall} rows={rows} />
                <DraggedRange track={track.id} />
                <MagnifiedPart track={track} index={index} />
              </Following>
              <NarrowHandles
                clips={track.clips ?? NO_CLIPS}
                height={tall}
                top={TOP}
                track={track.id}
              />
            </>
          )}
        </div>
      </section>
      {lanes.map((found) => (
        <LaneView key={found.name} lane={found} clips={track.clips} />
      ))}
      <AnalysisLanes track={track.id} />
    </>
  );
}

/** From the track on which a range was begun to another one; the former first. */
function tracksBetween(from: string, to: string | undefined): string[] {
  const ids = (reelNow().tracks ?? []).map((t) => t.id);
  const [a, b] = [ids.indexOf(from), to === undefined ? -1 : ids.indexOf(to)];
  if (b < 0) return [from];
  return a <= b ? ids.slice(a, b + 1) : ids.slice(b, a + 1).reverse();
}

interface PartsProps {
  track: Track;
  index: number;
  /** Height of its clips. */
  tall: number;
  /** Row of each treatment. */
  rows: Map<string, number>;
}

/** Clips and treatments; drawn anew when the track or the stretch in view changes. */
const TrackParts = memo(function TrackParts({ track, index, tall, rows }: PartsProps) {
  const clips = track.clips ?? NO_CLIPS;
  const treatments = track.treatments ?? [];
  const { scale } = useShown();
  return (
    <>
      <ClipPaper clips={clips} height={tall} top={TOP} />
      <NarrowTreatments clips={clips} path={`tracks.${index}.clips`} top={TOP + tall} />
      {clips.map(
        (clip, c) =>
          !isNarrow(clip, scale) && (
            <div className="clip-place" key={clip.id} style={{ top: TOP }}>
              <ClipView
                clip={clip}
                path={`tracks.${index}.clips.${c}`}
                height={tall}
                track={track.id}
              />
            </div>
          ),
      )}
      {!track.folded &&
        treatments.map((t, f) => (
          <TreatmentView
            key={t.id}
            treatment={t}
            path={`tracks.${index}.treatments.${f}`}
            top={TOP + tall + 1 + (rows.get(t.id) ?? 0) * (ROW + 3)}
            height={ROW}
          />
        ))}
      {!track.folded &&
        treatments.length === 0 &&
        !clips.some((c) => c.treatment?.effects?.length) && (
          <span className="lane-hint">Drag here to treat a stretch</span>
        )}
    </>
  );
});

/** The magnifier, over the treatment that it is of. */
function MagnifiedPart({ track, index }: { track: Track; index: number }) {
  const id = useMagnified((s) => s.id);
  const f = (track.treatments ?? []).findIndex((t) => t.id === id);
  const treatment = track.treatments?.[f];
  if (!treatment) return null;
  return <Magnifier track={track} treatment={treatment} path={`tracks.${index}.treatments.${f}`} />;
}

const NO_CLIPS: Clip[] = [];

/** The stretch that has been dragged on a track. */
function DraggedRange({ track }: { track: string }) {
  const x = useShownX();
  const dragged = useSelection((s) => draggedOn(s.selection, track));
  if (!dragged) return null;
  const left = x(dragged.start);
  return <div className="range" style={{ left, width: Math.max(2, x(dragged.end) - left) }} />;
}
