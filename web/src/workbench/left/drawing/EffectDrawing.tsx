import type { KeyboardEvent, PointerEvent, ReactNode } from 'react';
import { useRef } from 'react';
import { shareOn, tickText, ticks, valueOn, type Axis } from './axes';
import type { DrawingData } from './useDrawing';

type Grip = DrawingData['grips'][number];

interface Props {
  drawing: DrawingData;
  label: string;
  /** Whether a grip may be taken hold of; values that have keyframes are not set by it. */
  free: (grip: Grip) => boolean;
  /** A grip is on its way to a place on the axes. */
  drag: (grip: Grip, x: number, y: number) => void;
  /** What stands beside its facts. */
  beside?: ReactNode;
  /** It has been let go there. */
  drop: (grip: Grip, x: number, y: number) => void;
}

const WIDTH = 300;
const HEIGHT = 92;
const ROUND_HEIGHT = 150;
const EDGE = { left: 26, right: 8, top: 6, bottom: 16 };
const NUDGE = 0.02;

/** What an effect does at this moment; what is drawn as a grip can be dragged or nudged. */
export function EffectDrawing({ drawing, label, free, drag, drop, beside }: Props) {
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
  const take = (grip: Grip) => (e: PointerEvent<SVGGElement>) => {
    if (e.button !== 0 || !free(grip)) return;
    e.preventDefault();
    const target = e.currentTarget;
    target.focus();
    target.setPointerCapture(e.pointerId);
    let last: readonly [number, number] | undefined;
    const move = (m: globalThis.PointerEvent) => {
      last = placeOf(m);
      drag(grip, ...last);
    };
    const up = () => {
      target.removeEventListener('pointermove', move);
      target.removeEventListener('pointerup', up);
      target.removeEventListener('pointercancel', up);
      if (last) drop(grip, ...last);
    };
    target.addEventListener('pointermove', move);
    target.addEventListener('pointerup', up);
    target.addEventListener('pointercancel', up);
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
    drop(
      grip,
      valueOn(drawing.x, shareOn(drawing.x, grip.x) + by[0]!),
      valueOn(drawing.y, shareOn(drawing.y, grip.y) + by[1]!),
    );
  };

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
        {drawing.grips.map((grip) => (
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
        <span>{drawing.facts.join(' · ')}</span>
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
