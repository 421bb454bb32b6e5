import type { KeyboardEvent, PointerEvent, ReactNode } from 'react';
import { useEffect, useRef, useState } from 'react';
import { begin, type DrawnEffect, type Gesture } from '../../../hand/gesture';
import { drag } from '../../../hand/pointer';
import { NUDGED_MS } from '../../../hand/turning';
import type { Command } from '../../../reel/session';
import { shareOn, tickText, ticks, valueOn, type Axis } from './axes';
import type { DrawingData } from './useDrawing';

type Grip = DrawingData['grips'][number];

interface Props {
  drawing: DrawingData;
  label: string;
  /** Whether a grip may be taken hold of; values that have keyframes are not set by it. */
  free: (grip: Grip) => boolean;
  /** The edits that a grip's being at a place on the axes stands for. */
  edits: (grip: Grip, x: number, y: number) => readonly Command[];
  drawn: DrawnEffect;
  /** What stands beside its facts. */
  beside?: ReactNode;
}

const WIDTH = 300;
const HEIGHT = 92;
const ROUND_HEIGHT = 150;
const EDGE = { left: 26, right: 8, top: 6, bottom: 16 };
const NUDGE = 0.02;

/** A grip that is being moved, and where on the axes. */
interface Held {
  label: string;
  x: number;
  y: number;
}

/** What an effect does at this moment; what is drawn as a grip can be dragged or nudged. */
export function EffectDrawing({ drawing, label, free, edits, drawn, beside }: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const height = drawing.round ? ROUND_HEIGHT : HEIGHT;
  const side = height - EDGE.top - EDGE.bottom;
  const inner = drawing.round ? side : WIDTH - EDGE.left - EDGE.right;
  const left = drawing.round ? (WIDTH - inner) / 2 : EDGE.left;
  const px = (value: number) => left + inner * clamp(shareOn(drawing.x, value));
  const py = (value: number) => EDGE.top + side * (1 - clamp(shareOn(drawing.y, value)));

  const placeOf = (e: { clientX: number; clientY: number }) => {
    const box = svg.current!.getBoundingClientRect();
    const x = ((e.clientX - box.left) / box.width) * WIDTH;
    const y = ((e.clientY - box.top) / box.height) * height;
    return [
      valueOn(drawing.x, (x - left) / inner),
      valueOn(drawing.y, 1 - (y - EDGE.top) / side),
    ] as const;
  };
  // The grip in hand lies where the hand is; the drawing follows as fast as it is worked out.
  const [held, setHeld] = useState<Held | undefined>();
  const nudging = useRef<{ gesture: Gesture; timer?: ReturnType<typeof setTimeout> }>(undefined);
  useEffect(() => () => void nudging.current?.gesture.commit(), []);
  const put = (grip: Grip, x: number, y: number) => {
    setHeld({ label: grip.label, x, y });
    return edits(grip, x, y);
  };
  const take = (grip: Grip) => (e: PointerEvent<SVGGElement>) => {
    if (e.button !== 0 || !free(grip)) return;
    e.preventDefault();
    e.currentTarget.focus();
    drag(e, {
      drawing: drawn,
      moved: (m) => put(grip, ...placeOf(m)),
      over: () => setHeld(undefined),
    });
  };
  const nudge = (grip: Grip) => (e: KeyboardEvent) => {
    const by = {
      ArrowLeft: [-NUDGE, 0],
      ArrowRight: [NUDGE, 0],
      ArrowDown: [0, -NUDGE],
      ArrowUp: [0, NUDGE],
    }[e.key];
    if (!by || !free(grip)) return;
    e.preventDefault();
    e.stopPropagation();
    const from = held?.label === grip.label ? held : grip;
    const going = nudging.current?.gesture;
    // The one before may still be being recorded.
    const gesture: Gesture = going?.open
      ? going
      : begin({
          drawing: drawn,
          over: () => {
            // Another one has begun since.
            if (nudging.current?.gesture !== gesture) return;
            clearTimeout(nudging.current.timer);
            nudging.current = undefined;
            setHeld(undefined);
          },
        });
    clearTimeout(nudging.current?.timer);
    gesture.update(
      put(
        grip,
        valueOn(drawing.x, shareOn(drawing.x, from.x) + by[0]!),
        valueOn(drawing.y, shareOn(drawing.y, from.y) + by[1]!),
      ),
    );
    const timer = setTimeout(() => void gesture.commit(), NUDGED_MS);
    nudging.current = { gesture, timer };
  };
  const grips = drawing.grips.map((grip) =>
    held?.label === grip.label ? { ...grip, x: held.x, y: held.y } : grip,
  );

  return (
    <figure className="effect-drawing">
      <svg
        ref={svg}
        viewBox={`0 0 ${WIDTH} ${height}`}
        role="group"
        aria-label={`${label}: ${drawing.facts.join('; ') || drawing.y.label}`}
      >
        <Grid x={drawing.x} y={drawing.y} px={px} py={py} plain={drawing.round} height={height} />
        {drawing.lines.map((line, i) => (
          <path
            key={i}
            className={`drawn ${line.style}`}
            d={
              line.x
                .map((x, k) => `${k ? 'L' : 'M'}${px(x).toFixed(1)} ${py(line.y[k]!).toFixed(1)}`)
                .join('') +
              (line.style === 'before'
                ? `L${px(drawing.x.high)} ${py(drawing.y.low)}L${px(drawing.x.low)} ${py(drawing.y.low)}Z`
                : '')
            }
          />
        ))}
        {drawing.marks.map((mark, i) =>
          drawing.round || mark.label === 'now' ? (
            <circle key={i} className="drawn-now" cx={px(mark.x)} cy={py(mark.y)} r="4" />
          ) : (
            <path
              key={i}
              className={`drawn stem ${mark.style}`}
              d={`M${px(mark.x)} ${py(drawing.y.low)}V${py(mark.y)}`}
            >
              <title>{mark.label}</title>
            </path>
          ),
        )}
        {drawing.lines.map(
          (line, i) =>
            line.label &&
            line.x.length > 0 && (
              <text key={i} className="drawn-label" {...labelPlace(line, i, px, py)}>
                {line.label}
              </text>
            ),
        )}
        {grips.map((grip) => (
          <g
            key={grip.label}
            className="grip"
            role="slider"
            tabIndex={free(grip) ? 0 : -1}
            aria-label={`${label}, ${grip.label}`}
            aria-valuenow={grip.x_parameter ? grip.x : grip.y}
            aria-valuetext={`${tickText(drawing.x, grip.x)} ${drawing.x.unit}, ${tickText(drawing.y, grip.y)} ${drawing.y.unit}`}
            aria-disabled={!free(grip) || undefined}
            onPointerDown={take(grip)}
            onKeyDown={nudge(grip)}
          >
            <circle className="reach" cx={px(grip.x)} cy={py(grip.y)} r="12" />
            <circle className="knob" cx={px(grip.x)} cy={py(grip.y)} r="5" />
            <title>{`${grip.label}: drag, or use the arrow keys`}</title>
          </g>
        ))}
      </svg>
      <figcaption className="small quiet">
        <span title={drawing.facts.join(' · ')}>{drawing.facts.join(' · ')}</span>
        {beside}
      </figcaption>
    </figure>
  );
}

function Grid(props: {
  x: Axis;
  y: Axis;
  px: (v: number) => number;
  py: (v: number) => number;
  plain: boolean;
  height: number;
}) {
  const { x, y, px, py, plain, height } = props;
  if (plain) return null;
  return (
    <g className="drawn-grid">
      {ticks(x).map((v) => (
        <g key={v}>
          <path d={`M${px(v)} ${py(y.low)}V${py(y.high)}`} />
          {px(v) < px(x.high) - 16 && (
            <text x={px(v)} y={height - 4} textAnchor="middle">
              {tickText(x, v)}
            </text>
          )}
        </g>
      ))}
      {ticks(y).map((v) => (
        <g key={v}>
          <path d={`M${px(x.low)} ${py(v)}H${px(x.high)}`} />
          <text x={px(x.low) - 3} y={py(v) + 3} textAnchor="end">
            {tickText(y, v)}
          </text>
        </g>
      ))}
      <text x={px(x.high)} y={height - 4} textAnchor="end">
        {x.unit}
      </text>
      <text x={px(x.low) + 3} y={py(y.high) + 8}>
        {y.unit}
      </text>
    </g>
  );
}

/** Beside its line, each a little further along than the one before. */
function labelPlace(
  line: DrawingData['lines'][number],
  index: number,
  px: (v: number) => number,
  py: (v: number) => number,
) {
  const count = line.x.length;
  const at = Math.min(count - 1, Math.floor(count * (0.12 + 0.1 * index)));
  return { x: px(line.x[at]!) + 4, y: py(line.y[at]!) - 3 };
}

function clamp(share: number): number {
  return Math.min(1.02, Math.max(-0.02, share));
}
