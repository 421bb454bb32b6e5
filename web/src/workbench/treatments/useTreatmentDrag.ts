/** A treatment's drags: moved, stretched, its ramps, copied with Ctrl, and up or down in order. */
import { useState, type PointerEvent } from 'react';
import { NOTHING, trackOf, type Treatment } from '../../reel/document';
import { drag as holdPointer } from '../../hand/pointer';
import { useSession, type Command } from '../../reel/session';
import type { Clock } from '../../time/clock';
import { newId } from '../../ui/ids';
import { useTools } from '../tools/context';
import { movedBy } from '../selected/partEdits';
import { isSelected, partsOf, useSelection, withPart } from '../selected/selection';
import { overlap } from './order';
import { useReadout } from '../axis/readout';
import { snap } from '../axis/snap';
import { targetsNow } from '../axis/targets';
import { useSeen } from '../axis/shown';
import { dragged, readoutOf, shiftOf, type Span, type SpanPart } from '../axis/spanDrag';

const MOVED_PX = 3;
/** So far up or down, and no farther along, a drag changes the order of processing. */
const ROW_PX = 26;
const ALONG_PX = 16;

export function treatmentSpan(t: Treatment): Span {
  return {
    start: t.start,
    end: t.start + t.length,
    head: t.ramp_in?.length ?? 0,
    foot: t.ramp_out?.length ?? 0,
  };
}

/**
 * @param height Pixels of a row.
 * @returns Its span and its shift in pixels down while it is dragged, and what begins a drag.
 */
export function useTreatmentDrag(treatment: Treatment, height: number) {
  const { clock } = useTools();
  const seen = useSeen();
  const [drag, setDrag] = useState<{ part: SpanPart; span: Span } | undefined>();
  const [row, setRow] = useState(0);
  const begin = (part: SpanPart) => (e: PointerEvent<Element>) => {
    if (e.button !== 0) return;
    e.preventDefault();
    e.stopPropagation();
    const { select, selection } = useSelection.getState();
    const { show } = useReadout.getState();
    const own = { kind: 'treatment', id: treatment.id } as const;
    // One of several takes the others along; with Shift it is added to them or taken out.
    const together = isSelected(selection, own) ? partsOf(selection) : [own];
    if (!e.shiftKey && together.length === 1) select(own);
    const document = useSession.getState().document ?? NOTHING;
    const origin = treatmentSpan(treatment);
    const from = { x: e.clientX, y: e.clientY };
    const { scale } = seen();
    const targets = targetsNow(clock, treatment.id);
    const frame = Math.ceil(clock.sampleRate / clock.framesPerSecond);
    let latest: Span | undefined;
    let rows = 0;
    const others = trackOf(document, 'treatments', treatment.id)?.treatments ?? [];
    const ordered = others.some((t) => t.id !== treatment.id && overlap(t, treatment));
    // Dragged with Ctrl, it stays and a copy goes.
    const copy = newId('f');
    const copies = part === 'move' && (e.ctrlKey || e.metaKey);
    const moved = (m: globalThis.PointerEvent): Command[] | undefined => {
      const dx = m.clientX - from.x;
      const dy = m.clientY - from.y;
      const upright = Math.abs(dy) > ROW_PX && Math.abs(dx) < ALONG_PX;
      rows = part === 'move' && ordered && upright ? Math.round(dy / height) || Math.sign(dy) : 0;
      setRow(rows ? dy : 0);
      if (rows) {
        latest = undefined;
        setDrag(undefined);
        show({
          sample: origin.start,
          to: '',
          text: rows < 0 ? 'processed earlier' : 'processed later',
        });
        return [{ kind: 'order_treatment', id: treatment.id, by: rows }];
      }
      if (!latest && Math.abs(dx) < MOVED_PX) return undefined;
      const found = dragged(part, origin, dx * scale, frame, (s) =>
        snap(s, targets, clock, scale, m.altKey),
      );
      latest = found.shape;
      setDrag({ part, span: latest });
      show({ sample: found.at, to: found.to, text: readoutOf(part, latest, clock, 'ramp') });
      if (copies) {
        const start = { frame: clock.frameOfSample(latest.start) };
        return [{ kind: 'copy_treatment', id: treatment.id, copies: [{ id: copy, start }] }];
      }
      if (part === 'move' && together.length > 1) {
        const start = clock.sampleOfFrame(clock.frameOfSample(latest.start));
        return start === origin.start ? [] : movedBy(together, shiftOf(clock, origin.start, start));
      }
      const command = commandFor(part, treatment.id, origin, latest, clock);
      return command ? [command] : [];
    };
    holdPointer(e, {
      moved,
      clicked: () => select(e.shiftKey ? withPart(selection, own) : own),
      dropped: () => {
        show(undefined);
        setRow(0);
      },
      over: (kept) => {
        show(undefined);
        setRow(0);
        setDrag(undefined);
        if (kept && copies && latest) select({ kind: 'treatment', id: copy });
      },
    });
  };
  return { drag: drag && withRamps(drag.part, drag.span, treatment), row, begin };
}

/** Ramps that are not dragged themselves are as the draft says: the server knows what fits. */
function withRamps(part: SpanPart, span: Span, drafted: Treatment): Span {
  const { head, foot } = treatmentSpan(drafted);
  return {
    ...span,
    head: part === 'head' ? span.head : head,
    foot: part === 'foot' ? span.foot : foot,
  };
}

function commandFor(
  part: SpanPart,
  id: string,
  from: Span,
  to: Span,
  clock: Clock,
): Command | undefined {
  const base = { kind: 'set_treatment', id };
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
}
