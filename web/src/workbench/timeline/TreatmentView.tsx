import { memo, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { firstValue, NOTHING, type Treatment } from '../../reel/document';
import { useSession, type Command } from '../../reel/session';
import { usePlayer } from '../../player/player';
import { newId } from '../../ui/ids';
import { useTools } from '../context';
import { useSelection } from '../selection';
import { formatValue } from '../left/values';
import { Contours } from './ClipView';
import { useReadout } from './readout';
import { snap, snapTargets } from './snap';
import { slope } from './slope';
import { dragged, follow, readoutOf, type Span, type SpanPart } from './spanDrag';
import { useShown, useShownX } from './shown';

interface Props {
  treatment: Treatment;
  path: string;
  top: number;
  height: number;
}

const MOVED_PX = 3;
/** Narrower ones are moved only: their edges come with zooming in. */
const GRIPS_FROM = 30;

function shapeOf(t: Treatment): Span {
  return {
    start: t.start,
    end: t.start + t.length,
    head: t.ramp_in?.length ?? 0,
    foot: t.ramp_out?.length ?? 0,
  };
}

/** A treatment to scale, hanging below the clips: the deeper, the more treated. */
export const TreatmentView = memo(function TreatmentView({ treatment, path, top, height }: Props) {
  const { clock, effects } = useTools();
  const x = useShownX();
  const { scale, width } = useShown();
  const select = useSelection((s) => s.select);
  const chosen = useSelection(
    (s) => s.selection.kind === 'treatment' && s.selection.id === treatment.id,
  );
  const edit = useSession((s) => s.edit);
  const tail = useSession((s) => s.derived?.tails[path] ?? 0);
  const show = useReadout((s) => s.show);
  const [drag, setDrag] = useState<Span | undefined>();
  const shape = drag ?? shapeOf(treatment);
  const left = x(shape.start);
  const right = x(shape.end);
  if (right + tail / scale < -20 || left > width + 20) return null;

  const choose = () => select({ kind: 'treatment', id: treatment.id });
  const w = Math.max(3, right - left);
  const strength = firstValue(treatment.strength, 100);
  const depth = 6 + ((height - 6) * strength) / 100;
  const head = Math.min(w, shape.head / scale);
  const foot = Math.min(w, shape.foot / scale);
  const outline = `M0 0${slope(treatment.ramp_in?.shape, [0, 0], [head, depth], true)}H${w - foot}${slope(treatment.ramp_out?.shape, [w - foot, depth], [w, 0], false)}`;
  const live = (treatment.effects ?? []).filter((e) => !e.bypass);
  const kind = live[0]?.kind ?? 'none';

  const begin = (part: SpanPart) => (e: PointerEvent<Element>) => {
    if (e.button !== 0) return;
    e.preventDefault();
    e.stopPropagation();
    choose();
    const document = useSession.getState().document ?? NOTHING;
    const origin = shapeOf(treatment);
    const startX = e.clientX;
    const targets = snapTargets(document, clock, usePlayer.getState().position, treatment.id);
    const frame = Math.ceil(clock.sampleRate / clock.framesPerSecond);
    let latest: Span | undefined;
    const move = (m: globalThis.PointerEvent) => {
      const dx = m.clientX - startX;
      if (!latest && Math.abs(dx) < MOVED_PX) return;
      const moved = dragged(part, origin, dx * scale, frame, (s) =>
        snap(s, targets, clock, scale, m.altKey),
      );
      latest = fitted(moved.shape);
      setDrag(latest);
      show({ sample: moved.at, to: moved.to, text: readoutOf(part, latest, clock, 'ramp') });
    };
    follow(e, move, () => {
      show(undefined);
      if (latest && part === 'move' && (e.ctrlKey || e.metaKey)) {
        // Dragged with Ctrl, it stays and a copy goes.
        const id = newId('f');
        const start = { frame: clock.frameOfSample(latest.start) };
        void edit({ kind: 'copy_treatment', id: treatment.id, copies: [{ id, start }] }).then(
          (done) => {
            setDrag(undefined);
            if (done) select({ kind: 'treatment', id });
          },
        );
        return;
      }
      const command = latest && commandFor(part, origin, latest);
      if (command) void edit(command).then(() => setDrag(undefined));
      else setDrag(undefined);
    });
  };

  const commandFor = (part: SpanPart, from: Span, to: Span): Command | undefined => {
    const base = { kind: 'set_treatment', id: treatment.id };
    const frame = (sample: number) => ({ frame: clock.frameOfSample(sample) });
    const frames = (a: number, b: number) => ({
      frames: clock.frameOfSample(b) - clock.frameOfSample(a),
    });
    if (part === 'move' && to.start !== from.start) return { ...base, start: frame(to.start) };
    if (part === 'start' && to.start !== from.start)
      return { ...base, start: frame(to.start), end: { sample: from.end } };
    if (part === 'end' && to.end !== from.end) return { ...base, end: frame(to.end) };
    if (part === 'head' && to.head !== from.head)
      return { ...base, ramp_in: frames(to.start, to.start + to.head) };
    if (part === 'foot' && to.foot !== from.foot)
      return { ...base, ramp_out: frames(to.end - to.foot, to.end) };
    return undefined;
  };

  const key = (e: KeyboardEvent) => {
    if (e.key === 'Enter') choose();
    else if (e.key === 'Delete' || e.key === 'Backspace') {
      select({ kind: 'none' });
      void edit({ kind: 'remove_treatment', id: treatment.id });
    } else if (e.key === 'ArrowLeft' || e.key === 'ArrowRight') {
      const by = (e.key === 'ArrowLeft' ? -1 : 1) * (e.shiftKey ? 5 : 1);
      const to = Math.max(0, clock.frameOfSample(treatment.start) + by);
      void edit({ kind: 'set_treatment', id: treatment.id, start: { frame: to } });
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
        style={{ left, width: w, top, height }}
        onPointerDown={begin('move')}
        onFocus={choose}
        onKeyDown={key}
      >
        <svg width={w} height={height} aria-hidden="true">
          <path
            className="basin"
            d={`${outline}Z`}
            fill={`url(#depth-${Math.round(strength / 25)})`}
          />
          {w >= GRIPS_FROM && (
            <path className="hatch" d={`${outline}Z`} fill={`url(#hatch-${kind})`} />
          )}
          <path className="edge" d={outline} />
        </svg>
        {w > 30 && (
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
        {chosen && w > 70 && (
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
      {tail > 0 && <Contours left={right} width={tail / scale} top={top} height={depth} />}
    </>
  );
});

/** Ramps no longer than their treatment, as the server will shorten them. */
function fitted(s: Span): Span {
  const length = s.end - s.start;
  const both = s.head + s.foot;
  if (both <= length) return s;
  return {
    ...s,
    head: Math.floor((s.head * length) / both),
    foot: Math.floor((s.foot * length) / both),
  };
}
