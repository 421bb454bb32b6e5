import { ActionIcon, Tooltip } from '@mantine/core';
import {
  IconChevronLeft,
  IconChevronRight,
  IconCircleMinus,
  IconCirclePlus,
  IconTable,
  IconX,
} from '@tabler/icons-react';
import { memo, useMemo, useRef, type PointerEvent, type ReactNode } from 'react';
import { useShallow } from 'zustand/react/shallow';
import { usePlayer } from '../../player/player';
import { spanOf, type Clip, type Keyframe } from '../../reel/document';
import { follow } from '../../hand/pointer';
import { useSession } from '../../reel/session';
import { placeIn } from '../../time/outline';
import { useTools } from '../tools/context';
import { formatValue } from '../values/values';
import { keysOf, useSelection } from '../selected/selection';
import { useReadout } from '../axis/readout';
import { CLICK_REACH_PX, snap } from '../axis/snap';
import { targetsNow } from '../axis/targets';
import { Following, useSeen, useShown, useShownX } from '../axis/shown';
import { Wave } from '../axis/Wave';
import { boxed, useBox } from '../keyframes/box';
import { curvePath } from '../keyframes/curvePath';
import { effectivePath, useEffective } from '../keyframes/effective';
import { KeyMark } from './KeyMark';
import { shifted, withShift } from '../keyframes/keys';
import { valueAtPlace, valueIn, type Lane } from '../keyframes/lanes';
import { useOpenLanes } from '../keyframes/openLanes';
import { reelNow } from '../../reel/useReel';

const HEIGHT = 96;
export const EDGE = 9;
const MOVED_PX = 4;
/** Marks nearer than this to the one before are left out; they come with zooming in. */
const APART_PX = 3;

interface Props {
  lane: Lane;
  /** What lies on its track, whose waves are drawn behind it. */
  clips: Clip[] | undefined;
}

/** The values of one lane over time, on the tracks' axis: a click puts a keyframe. */
export const LaneView = memo(function LaneView({ lane, clips }: Props) {
  const { clock } = useTools();
  const x = useShownX();
  const { start, scale, width } = useShown();
  const seen = useSeen();
  const { selection, select } = useSelection();
  const edit = useSession((s) => s.edit);
  const speeds = useSession((s) => s.derived?.speeds);
  const show = useReadout((s) => s.show);
  const take = useOpenLanes((s) => s.take);
  const setShift = useBox((s) => s.setShift);
  const body = useRef<HTMLDivElement>(null);
  const keys = keysOf(selection);
  const by = useBox((s) => s.shift);
  const points = useMemo(
    () => (by ? withShift(clock, lane, keys, by) : lane.points),
    [clock, lane, keys, by],
  );
  const shown = useMemo(() => ({ ...lane, points }), [lane, points]);
  const path = useMemo(
    () => curvePath(shown, start, scale, width, HEIGHT, EDGE),
    [shown, start, scale, width],
  );

  const effective = useEffective(lane, start, start + width * scale, width);

  /** Where a click would put a keyframe: where it is made, unless something is right there. */
  const landing = (m: { clientX: number; clientY: number; altKey: boolean }) => {
    if (!body.current) return undefined;
    const box = body.current.getBoundingClientRect();
    const laid = seen();
    const sample = laid.start + (m.clientX - box.left) * laid.scale;
    return {
      ...snap(sample, targetsNow(clock), clock, laid.scale, m.altKey, CLICK_REACH_PX),
      value: roundly(lane, valueIn(lane, 1 - (m.clientY - box.top - EDGE) / (HEIGHT - 2 * EDGE))),
    };
  };

  const hover = (e: PointerEvent<HTMLDivElement>) => {
    // Over a keyframe it is that which a press takes hold of.
    const free = e.buttons === 0 && !(e.target as HTMLElement).closest('.key-mark');
    const here = free ? landing(e) : undefined;
    if (here)
      show({
        sample: here.sample,
        to: here.to,
        text: `${clock.timecode(Math.max(0, here.sample))} · ${formatValue(lane.parameter, here.value)}`,
      });
    else if (e.buttons === 0) show(undefined);
  };

  const down = (e: PointerEvent<HTMLDivElement>) => {
    if (e.button !== 0 || !body.current) return;
    take(lane.name);
    const from = { x: e.clientX, y: e.clientY };
    let dragging = false;
    const move = (m: globalThis.PointerEvent) => {
      if (!dragging && Math.hypot(m.clientX - from.x, m.clientY - from.y) < MOVED_PX) return;
      dragging = true;
      useBox.getState().draw({ x: from.x, y: from.y, toX: m.clientX, toY: m.clientY });
    };
    const up = () => {
      const drawn = useBox.getState().box;
      useBox.getState().draw(undefined);
      show(undefined);
      if (dragging) {
        const found = drawn ? boxed(drawn) : [];
        const all = e.shiftKey ? [...keys, ...found] : found;
        select(all.length ? { kind: 'keys', keys: all } : { kind: 'none' });
        return;
      }
      const here = landing(e);
      if (!here) return;
      void edit({
        kind: 'put_keyframes',
        keys: [
          {
            lane: lane.name,
            moment: { frame: clock.frameOfSample(here.sample) },
            value: here.value,
          },
        ],
      }).then((done) => {
        if (done)
          select({ kind: 'keys', keys: [{ lane: lane.name, at: here.sample - lane.origin }] });
      });
    };
    follow(e, {
      moved: move,
      up,
      lost: () => {
        useBox.getState().draw(undefined);
        show(undefined);
      },
    });
  };

  // Beyond its owner's ends a value is kept, but nothing is heard of it.
  const inside = /^(treatment|clip):/.test(lane.owner) ? spanOf(reelNow(), lane.owner) : undefined;
  // A mark that is dragged stays the same element, wherever it is drawn: it holds the pointer.
  const held = new Set(by ? keys.filter((k) => k.lane === lane.name).map((k) => k.at) : []);
  const marks: { px: number; point: Keyframe; at: Keyframe }[] = [];
  let last = -Infinity;
  for (const point of lane.points) {
    const at = by && held.has(point.at) ? shifted(clock, lane, point, by) : point;
    const px = x(lane.origin + at.at);
    if (px < -12 || px > width + 12) continue;
    if (px - last < APART_PX && !held.has(point.at)) continue;
    last = px;
    marks.push({ px, point, at });
  }
  return (
    <section
      className="key-lane"
      data-heard
      style={{ height: HEIGHT }}
      aria-label={`${lane.label} of ${lane.of}`}
      data-lane={lane.name}
    >
      <LaneHead lane={lane} />
      <div
        className="key-lane-body"
        ref={body}
        onPointerDown={down}
        onPointerMove={hover}
        onPointerLeave={(e) => e.buttons === 0 && show(undefined)}
      >
        <Following>
          <div className="key-lane-wave" aria-hidden="true">
            {(clips ?? []).map((clip) => {
              const a = Math.max(clip.start, start);
              const b = Math.min(clip.start + clip.length, start + width * scale);
              if (b <= a) return null;
              return (
                <div key={clip.id} style={{ left: x(a) }}>
                  <Wave
                    media={clip.media}
                    from={placeIn(clip, speeds?.[clip.id]?.outline, a - clip.start)}
                    samples={Math.max(
                      1,
                      placeIn(clip, speeds?.[clip.id]?.outline, b - clip.start) -
                        placeIn(clip, speeds?.[clip.id]?.outline, a - clip.start),
                    )}
                    width={(b - a) / scale}
                    height={HEIGHT}
                    gain={1}
                  />
                </div>
              );
            })}
          </div>
          {inside && (
            <>
              <span
                className="lane-outside"
                style={{ left: 0, width: Math.max(0, x(inside.start)) }}
              />
              <span
                className="lane-outside"
                style={{ left: Math.max(0, x(inside.end)), right: 0 }}
              />
            </>
          )}
          <svg width={width} height={HEIGHT} aria-hidden="true">
            <path className="lane-curve" d={path} />
            {effective && (
              <path
                className="lane-effective"
                d={effectivePath(lane, effective, x, HEIGHT, EDGE)}
                data-testid="effective"
              />
            )}
          </svg>
          {!lane.points.length && (
            <span className="lane-hint">Click: a keyframe here. K: one at the playhead.</span>
          )}
          {marks.map((mark) => (
            <KeyMark
              key={mark.point.at}
              lane={lane}
              point={mark.point}
              shown={mark.at}
              px={mark.px}
              height={HEIGHT}
              edge={EDGE}
              keys={keys}
              setShift={setShift}
            />
          ))}
        </Following>
      </div>
    </section>
  );
});

/** A pixel is about a decibel: what is clicked is a whole one. */
function roundly(lane: Lane, value: number): number {
  return lane.parameter.unit === 'dB' ? Math.round(value) : value;
}

/** Name, value at the playhead, and steps from keyframe to keyframe. */
function LaneHead({ lane }: { lane: Lane }) {
  const { player } = useTools();
  const edit = useSession((s) => s.edit);
  const select = useSelection((s) => s.select);
  const toggle = useOpenLanes((s) => s.toggle);
  const take = useOpenLanes((s) => s.take);
  const inHand = useOpenLanes((s) => s.inHand === lane.name);
  // It is drawn anew when the playhead passes a keyframe, not whenever it moves.
  const [here, before, after] = usePlayer(useShallow((s) => around(lane, s.position)));
  const go = (point: { at: number } | undefined) => {
    take(lane.name);
    if (point) player.seek(Math.max(0, lane.origin + point.at));
  };
  const mark = () => {
    take(lane.name);
    void edit(
      here
        ? { kind: 'remove_keyframes', keys: [{ lane: lane.name, at: here.at }] }
        : {
            kind: 'put_keyframes',
            keys: [{ lane: lane.name, moment: { sample: usePlayer.getState().position } }],
          },
    );
  };
  return (
    <div className="track-head lane-head" data-hand={inHand || undefined}>
      <div className="lane-title">
        <span title={`${lane.label} of ${lane.of}`}>{lane.label}</span>
        <Tooltip label="Its keyframes as a table">
          <ActionIcon
            size={24}
            variant="subtle"
            color="gray"
            aria-label={`Table of the lane ${lane.label} of ${lane.of}`}
            onClick={() => select({ kind: 'lane', lane: lane.name })}
          >
            <IconTable size={13} />
          </ActionIcon>
        </Tooltip>
        <Tooltip label="Close this lane; its keyframes stay">
          <ActionIcon
            size={24}
            variant="subtle"
            color="gray"
            aria-label={`Close the lane ${lane.label} of ${lane.of}`}
            onClick={() => toggle(lane.name)}
          >
            <IconX size={13} />
          </ActionIcon>
        </Tooltip>
      </div>
      <span className="name lane-of" title={lane.of}>
        {lane.of}
      </span>
      <div className="lane-foot">
        <ValueHere lane={lane} />
        <span className="grow" />
        <Step label="Previous keyframe" disabled={!before} onClick={() => go(before)}>
          <IconChevronLeft size={14} />
        </Step>
        <Step
          label={here ? 'Remove the keyframe at the playhead' : 'Keyframe at the playhead (K)'}
          onClick={mark}
        >
          {here ? <IconCircleMinus size={15} /> : <IconCirclePlus size={15} />}
        </Step>
        <Step label="Next keyframe" disabled={!after} onClick={() => go(after)}>
          <IconChevronRight size={14} />
        </Step>
      </div>
    </div>
  );
}

/** Its keyframes at the playhead, and next to it on either side. */
function around({ points, origin }: Lane, position: number) {
  return [
    points.find((p) => origin + p.at === position),
    points.findLast((p) => origin + p.at < position),
    points.find((p) => origin + p.at > position),
  ];
}

/** Its value at the playhead. */
function ValueHere({ lane }: { lane: Lane }) {
  const value = usePlayer((s) => formatValue(lane.parameter, valueAtPlace(lane, s.position)));
  return <span className="number small">{value}</span>;
}

function Step(props: {
  label: string;
  disabled?: boolean;
  onClick: () => void;
  children: ReactNode;
}) {
  const { label, disabled, onClick, children } = props;
  return (
    <Tooltip label={label}>
      <ActionIcon
        size={24}
        variant="subtle"
        color="gray"
        aria-label={label}
        data-disabled={disabled ?? false}
        aria-disabled={disabled ?? false}
        onClick={() => !disabled && onClick()}
      >
        {children}
      </ActionIcon>
    </Tooltip>
  );
}
