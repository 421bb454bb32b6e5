import { type KeyboardEvent, type PointerEvent } from 'react';
import type { Keyframe } from '../../reel/document';
import { drag } from '../../hand/pointer';
import { useSession, type Command } from '../../reel/session';
import { useTools } from '../tools/context';
import { formatValue } from '../values/values';
import { useSelection } from '../selected/selection';
import { useReadout } from '../axis/readout';
import { snap } from '../axis/snap';
import { targetsNow } from '../axis/targets';
import { useSeen } from '../axis/shown';
import { useKeyEdits } from '../keyframes/keyEdits';
import { sameKey, shifted, shiftTo, withKey, type Key, type Shift } from '../keyframes/keys';
import { shareIn, type Lane } from '../keyframes/lanes';
import { useOpenLanes } from '../keyframes/openLanes';
import { wayName } from '../keyframes/ways';

interface Props {
  lane: Lane;
  point: Keyframe;
  /** The same where it is while it is dragged. */
  shown: Keyframe;
  px: number;
  height: number;
  edge: number;
  /** All that are selected. */
  keys: Key[];
  setShift: (shift: Shift | undefined) => void;
}

/** So many pixels before a direction counts: a drag along time leaves the value alone. */
const DEAD_PX = 5;

/** A keyframe: dragged in time and value, alone or with all that are selected. */
export function KeyMark({ lane, point, shown, px, height, edge, keys, setShift }: Props) {
  const { clock } = useTools();
  const select = useSelection((s) => s.select);
  const edit = useSession((s) => s.edit);
  const show = useReadout((s) => s.show);
  const take = useOpenLanes((s) => s.take);
  const edits = useKeyEdits();
  const seen = useSeen();
  const key = { lane: lane.name, at: point.at };
  const chosen = keys.some((k) => sameKey(k, key));
  const y = edge + (1 - shareIn(lane, shown.value)) * (height - 2 * edge);
  const place = lane.origin + point.at;

  const down = (e: PointerEvent<HTMLElement>) => {
    if (e.button !== 0) return;
    e.stopPropagation();
    e.preventDefault();
    e.currentTarget.focus();
    take(lane.name);
    const own = chosen ? keys : e.shiftKey ? [...keys, key] : [key];
    if (!chosen) select({ kind: 'keys', keys: own });
    const from = { x: e.clientX, y: e.clientY };
    const { scale } = seen();
    const targets = targetsNow(clock);
    let by: Shift | undefined;
    const moved = (m: globalThis.PointerEvent): Command[] | undefined => {
      const dx = m.clientX - from.x;
      const dy = m.clientY - from.y;
      const along = Math.abs(dx) >= DEAD_PX;
      const up = Math.abs(dy) >= DEAD_PX;
      if (!along && !up && !by) return undefined;
      const to = along
        ? snap(place + dx * scale, targets, clock, scale, m.altKey)
        : { sample: place, to: '' };
      by = shiftTo(clock, place, to.sample, up ? -dy / (height - 2 * edge) : 0);
      setShift(by);
      const value = shifted(clock, lane, point, by).value;
      show({
        sample: to.sample,
        to: to.to,
        text: `${clock.timecode(to.sample)} · ${formatValue(lane.parameter, value)}`,
      });
      return [{ kind: 'move_keyframes', keys: own, ...by }];
    };
    drag(e, {
      moved,
      clicked: () => {
        if (e.shiftKey) select({ kind: 'keys', keys: chosen ? withKey(keys, key) : own });
        else select({ kind: 'keys', keys: [key] });
      },
      dropped: () => show(undefined),
      over: (kept) => {
        show(undefined);
        setShift(undefined);
        if (kept && by) edits.followed(own, by);
      },
    });
  };

  const press = (e: KeyboardEvent) => {
    const own = chosen ? keys : [key];
    const by = e.shiftKey ? 5 : 1;
    if (e.key === 'ArrowLeft') void edits.move(own, { frames: -by, share: 0 });
    else if (e.key === 'ArrowRight') void edits.move(own, { frames: by, share: 0 });
    else if (e.key === 'ArrowUp') void edits.move(own, { share: by / 100 });
    else if (e.key === 'ArrowDown') void edits.move(own, { share: -by / 100 });
    else if (e.key === 'Enter') select({ kind: 'keys', keys: own });
    else if (e.key === ' ' && e.shiftKey) select({ kind: 'keys', keys: withKey(keys, key) });
    else if (e.key === 'Delete' || e.key === 'Backspace') edits.remove(own);
    else return;
    e.preventDefault();
    e.stopPropagation();
  };

  const value = formatValue(lane.parameter, point.value);
  return (
    <button
      type="button"
      className="key-mark"
      data-key={point.at}
      data-key-lane={lane.name}
      data-ease={point.ease ?? 'linear'}
      data-chosen={chosen || undefined}
      data-linked={point.pose ? true : undefined}
      aria-pressed={chosen}
      aria-label={`${lane.label} ${value} at ${clock.timecode(Math.max(0, place))}, to next: ${wayName(point.ease)}`}
      title={`${value} · ${clock.timecode(Math.max(0, place))}`}
      style={{ left: px, top: y }}
      onPointerDown={down}
      onKeyDown={press}
      onDoubleClick={() => void edit({ kind: 'soften_keyframes', keys: [key], by: 1 })}
    >
      <svg width="16" height="16" viewBox="-8 -8 16 16" aria-hidden="true">
        <path d={CLASP} />
      </svg>
    </button>
  );
}

/** A clasp around the line: the same for all, since the line itself tells how it goes on. */
const CLASP = 'M-3 -7H3V-2.5H-3ZM-3 2.5H3V7H-3Z';
