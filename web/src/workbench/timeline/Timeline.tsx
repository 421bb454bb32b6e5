import { Button } from '@mantine/core';
import { useEffect, useMemo, useRef } from 'react';
import { usePlayer } from '../../player/player';
import { reelNow } from '../../reel/useReel';
import { useSession } from '../../reel/session';
import { partsOf, useSelection } from '../selected/selection';
import { inOrder } from '../selected/walk';
import { newId } from '../../ui/ids';
import { Reorder } from '../../ui/Reorder';
import { useTools } from '../tools/context';
import { useBox } from '../keyframes/box';
import { AnalysisLanes } from '../analysis/AnalysisLane';
import { LaneView } from '../lanes/LaneView';
import { useLanesUnder } from '../keyframes/under';
import { apart } from '../axis/apart';
import { Overview } from './Overview';
import { Patterns } from '../treatments/Patterns';
import { useInSightFirst } from './onScreen';
import { useReadout } from '../axis/readout';
import { Ruler } from './Ruler';
import { Shots } from './Shots';
import { ShownView } from '../axis/shown';
import { TrackRow } from './TrackRow';
import { HEADS, usePlace, useView, useX } from '../axis/view';
import { useShallow } from 'zustand/react/shallow';
import { useReel } from '../../reel/useReel';

const FOLLOW_AT = 0.92;
const CUTS_APART_PX = 6;

/** Shots, ruler, tracks and the whole reel, on one time axis. */
export function Timeline() {
  const tracks = useSession(useShallow((s) => (s.document?.tracks ?? []).map((t) => t.id)));
  const { effects } = useTools();
  const frame = useRef<HTMLElement>(null);
  const width = useView((v) => v.width);
  const edit = useSession((s) => s.edit);

  useEffect(() => {
    const element = frame.current;
    if (!element) return;
    const observer = new ResizeObserver(([entry]) => {
      const before = useView.getState();
      const whole = before.scale * before.width >= before.length * 0.999;
      useView.getState().set({ width: Math.max(100, entry!.contentRect.width - HEADS - 10) });
      if (whole) useView.getState().fit(0, before.length);
    });
    observer.observe(element);
    const wheel = (e: WheelEvent) => {
      const view = useView.getState();
      const left = element.getBoundingClientRect().left + HEADS;
      if (e.ctrlKey || e.metaKey) {
        e.preventDefault();
        view.zoom(Math.exp(e.deltaY * 0.002), e.clientX - left);
      } else if (e.shiftKey || Math.abs(e.deltaX) > Math.abs(e.deltaY)) {
        e.preventDefault();
        view.set({ start: view.start + (e.deltaX || e.deltaY) * view.scale });
      }
    };
    element.addEventListener('wheel', wheel, { passive: false });
    return () => {
      observer.disconnect();
      element.removeEventListener('wheel', wheel);
    };
  }, []);

  useEffect(
    () =>
      usePlayer.subscribe((state, before) => {
        // The view turns a page when the playhead leaves it, but only while playing.
        if (!state.playing || state.position === before.position) return;
        const view = useView.getState();
        const px = (state.position - view.start) / view.scale;
        if (px > view.width * FOLLOW_AT && view.start + view.width * view.scale < view.length)
          view.set({ start: state.position - view.width * view.scale * 0.08 });
        else if (px < 0) view.set({ start: state.position - view.width * view.scale * 0.08 });
      }),
    [],
  );

  return (
    <main className="timeline" ref={frame} aria-label="Timeline">
      <Patterns effects={effects} />
      <InSightFirst />
      <Shots />
      <Ruler />
      <ShownView>
        <div className="tracks">
          <Reorder ids={tracks} move={(id, index) => void edit({ kind: 'move_track', id, index })}>
            {tracks.map((id, index) => (
              <TrackRow key={id} id={id} index={index} />
            ))}
          </Reorder>
          <MixLanes />
          <AnalysisLanes track={undefined} />
          <div className="track-add">
            <Button
              size="compact-xs"
              variant="subtle"
              onClick={() =>
                void edit({
                  kind: 'add_track',
                  track: { id: newId('t'), name: `Track ${tracks.length + 1}` },
                })
              }
            >
              Add a track
            </Button>
            {tracks.length === 0 && (
              <span className="quiet">
                Sounds you bring in under “Media &amp; sounds” get a track each.
              </span>
            )}
          </div>
        </div>
      </ShownView>
      <div className="over-tracks" style={{ left: HEADS, width }} aria-hidden="true">
        <CutLines />
        <Playhead />
        <ReadoutView />
      </div>
      <BoxView />
      <Overview />
      <Said />
    </main>
  );
}

/** Lanes of what is set of the mix. */
function MixLanes() {
  const lanes = useLanesUnder(undefined);
  return lanes.map((lane) => <LaneView key={lane.name} lane={lane} clips={undefined} />);
}

/** Cuts run down through everything; of those that crowd, some are left out. */
function CutLines() {
  const { clock } = useTools();
  const cuts = useReel((d) => d.picture?.cuts);
  const x = useX();
  const width = useView((v) => v.width);
  const at = (cut: number) => x(clock.sampleOfFrame(cut));
  const lines = apart(cuts ?? [], at, CUTS_APART_PX, 0, width);
  return lines.map((px) => <span key={px} className="cut-line" style={{ left: px }} />);
}

function InSightFirst() {
  useInSightFirst();
  return null;
}

/** It moves at every frame of the screen, and nothing else does with it. */
function Playhead() {
  const line = useRef<HTMLSpanElement>(null);
  usePlace((px, { width }) => {
    if (!line.current) return;
    line.current.hidden = px < 0 || px > width;
    line.current.style.transform = `translateX(${px}px)`;
  });
  return <span ref={line} className="playhead" data-testid="playhead" />;
}

/** Where a drag is, and what it has snapped to. */
function ReadoutView() {
  const x = useX();
  const width = useView((v) => v.width);
  const readout = useReadout((s) => s.readout);
  if (!readout) return null;
  return (
    <>
      <span
        className="snap-line"
        data-snapped={readout.to || undefined}
        style={{ left: x(readout.sample) }}
      />
      <span className="readout number" style={beside(x(readout.sample), width)}>
        {readout.text}
        {readout.to && <em> at {readout.to}</em>}
      </span>
    </>
  );
}

/** To the right of a place, or to its left where there is more room. */
function beside(px: number, width: number) {
  return px > width / 2 ? { right: Math.max(4, width - px + 8) } : { left: Math.max(4, px + 8) };
}

/** The same for those who hear it said, and what has come of it, and where. */
function Said() {
  const { clock } = useTools();
  const readout = useReadout((s) => s.readout);
  const last = useSession((s) => s.undo);
  // Only what the last edit has left there counts: the place is read when it has been made.
  const done = useMemo(() => {
    if (!last) return '';
    const [part] = partsOf(useSelection.getState().selection);
    const own = part && inOrder(reelNow()).find((p) => p.id === part.id && p.kind === part.kind);
    const at = own?.start ?? usePlayer.getState().position;
    return `Done: ${last.title}, ${clock.timecode(Math.max(0, at))}`;
  }, [last, clock]);
  return (
    <p className="hidden-text" role="status">
      {readout ? `${readout.text} ${readout.to && `at ${readout.to}`}` : done}
    </p>
  );
}

/** The box that is drawn around keyframes. */
function BoxView() {
  const box = useBox((s) => s.box);
  if (!box) return null;
  return (
    <div
      className="key-box"
      style={{
        left: Math.min(box.x, box.toX),
        top: Math.min(box.y, box.toY),
        width: Math.abs(box.toX - box.x),
        height: Math.abs(box.toY - box.y),
      }}
    />
  );
}
