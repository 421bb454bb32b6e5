import { IconZoomIn } from '@tabler/icons-react';
import { memo, type KeyboardEvent } from 'react';
import { firstValue, type Treatment } from '../../reel/document';
import { useSession } from '../../reel/session';
import { useTools } from '../tools/context';
import { usePartEdits } from '../selected/partEdits';
import { pressToSelect } from '../selected/pressToSelect';
import { isSelected, partsOf, useSelection } from '../selected/selection';
import { formatValue } from '../values/values';
import { TailGrip } from '../axis/TailGrip';
import { Contours } from '../clips/ClipView';
import { useMagnified } from './magnified';
import { slope } from '../axis/slope';
import { useShown, useShownX } from '../axis/shown';
import { treatmentSpan, useTreatmentDrag } from './useTreatmentDrag';

interface Props {
  /** Within the magnifier there is none. */
  magnified?: boolean;
  treatment: Treatment;
  path: string;
  top: number;
  height: number;
}

/** Narrower ones are moved only: their edges come with zooming in. */
const GRIPS_FROM = 30;
/** Up to this width its handles would touch, and one opens a magnifier instead. */
const MAGNIFIED_TO = 70;
/** Narrower ones would show a letter or two. */
const NAMED_FROM = 56;

/** A treatment to scale, hanging below the clips: the deeper, the more treated. */
export const TreatmentView = memo(function TreatmentView(props: Props) {
  const { treatment, path, top, height, magnified } = props;
  const { clock, effects } = useTools();
  const x = useShownX();
  const { scale, width } = useShown();
  const own = { kind: 'treatment', id: treatment.id } as const;
  const select = useSelection((s) => s.select);
  const chosen = useSelection((s) => isSelected(s.selection, own));
  const alone = useSelection((s) => partsOf(s.selection).length === 1);
  const parts = usePartEdits();
  const tail = useSession((s) => s.derived?.tails[path] ?? 0);
  const { drag, row, begin } = useTreatmentDrag(treatment, height);
  const shape = drag ?? treatmentSpan(treatment);
  const left = x(shape.start);
  const right = x(shape.end);
  if (right + tail / scale < -20 || left > width + 20) return null;

  const choose = () => chosen || select(own);
  const w = Math.max(3, right - left);
  const strength = firstValue(treatment.strength, 100);
  const depth = 6 + ((height - 6) * strength) / 100;
  const head = Math.min(w, shape.head / scale);
  const foot = Math.min(w, shape.foot / scale);
  const outline = `M0 0${slope(treatment.ramp_in, [0, 0], [head, depth], true)}H${w - foot}${slope(treatment.ramp_out, [w - foot, depth], [w, 0], false)}`;
  const live = (treatment.effects ?? []).filter((e) => !e.bypass);
  const kind = live[0]?.kind;

  const key = (e: KeyboardEvent) => {
    if (pressToSelect(e, own)) return;
    if (e.key === 'Delete' || e.key === 'Backspace') {
      choose();
      parts.remove();
    } else if (e.key === 'ArrowLeft' || e.key === 'ArrowRight') {
      choose();
      parts.nudge((e.key === 'ArrowLeft' ? -1 : 1) * (e.shiftKey ? 5 : 1));
    } else return;
    e.preventDefault();
    e.stopPropagation();
  };

  const facts = live
    .flatMap((effect) => {
      const table = effects.find((t) => t.id === effect.kind);
      return (table?.telling ?? []).slice(0, 2).map((id) => {
        const p = table!.parameters.find((q) => q.id === id)!;
        return formatValue(p, firstValue(effect.params?.[id], p.default ?? 0));
      });
    })
    .slice(0, Math.max(0, Math.floor((w - 40) / 90)));
  const title = treatment.name || 'Treatment';
  const label = `${title}: ${clock.timecode(shape.start)} to ${clock.timecode(shape.end)}`;
  return (
    <>
      <div
        className="treatment"
        role="button"
        tabIndex={0}
        aria-label={label}
        aria-pressed={chosen}
        data-treatment={treatment.id}
        data-chosen={chosen || undefined}
        data-off={treatment.bypass || live.length === 0 || undefined}
        style={{ left, width: w, top: top + row, height }}
        onPointerDown={begin('move')}
        onKeyDown={key}
      >
        <svg width={w} height={height} aria-hidden="true">
          <path
            className="basin"
            d={`${outline}Z`}
            fill={`url(#depth-${Math.round(strength / 25)})`}
          />
          {w > NAMED_FROM && kind && (
            <path className="hatch" d={`${outline}Z`} fill={`url(#hatch-${kind})`} />
          )}
          <path className="edge" d={outline} />
        </svg>
        {w > NAMED_FROM && (
          <span className="name treatment-name" style={{ left: Math.max(head + 6, 8 - left) }}>
            {title}
          </span>
        )}
        {height > 34 && facts.length > 0 && (
          <span className="number soundings" style={{ left: head + 8, right: foot + 8 }}>
            {facts.map((f, i) => (
              <span key={i}>{f}</span>
            ))}
          </span>
        )}
        {w >= GRIPS_FROM && (
          <>
            <span className="grip start" data-grip="start" onPointerDown={begin('start')} />
            <span className="grip end" data-grip="end" onPointerDown={begin('end')} />
          </>
        )}
        {chosen && w > MAGNIFIED_TO && (
          <>
            <span
              className="grip ramp"
              data-grip="ramp-in"
              style={{ left: Math.max(22, head), top: depth }}
              onPointerDown={begin('head')}
            />
            <span
              className="grip ramp"
              data-grip="ramp-out"
              style={{ left: w - Math.max(22, foot), top: depth }}
              onPointerDown={begin('foot')}
            />
          </>
        )}
      </div>
      {chosen && alone && !magnified && w <= MAGNIFIED_TO && (
        <button
          type="button"
          className="loupe"
          aria-label={`Magnify the cuts of ${title}`}
          title="Magnify: its edges are too near to take hold of"
          style={{ left: left + w / 2, top: top + height / 2 }}
          onPointerDown={(e) => e.stopPropagation()}
          onClick={() => useMagnified.setState({ id: treatment.id, edge: 'start' })}
        >
          <IconZoomIn size={15} aria-hidden="true" />
        </button>
      )}
      {tail > 0 && <Contours left={right} width={tail / scale} top={top} height={depth} />}
      {tail > 0 && chosen && alone && (
        <TailGrip
          owner={`treatment:${treatment.id}`}
          end={shape.end}
          tail={tail}
          scale={scale}
          left={right}
          top={top + row}
          height={height}
        />
      )}
    </>
  );
});
