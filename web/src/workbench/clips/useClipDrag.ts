/** A clip's drags: moved, trimmed, faded; also onto another track. */
import { useState, type PointerEvent } from 'react';
import { create } from 'zustand';
import { NOTHING, type Clip } from '../../reel/document';
import { drag as holdPointer } from '../../hand/pointer';
import { useSession, type Command } from '../../reel/session';
import { useTools } from '../tools/context';
import { movedBy } from '../selected/partEdits';
import { clipsOf, isSelected, partsOf, useSelection, withPart } from '../selected/selection';
import { clipSpan, commandOf, fitOf, fitText } from './clipDrag';
import { laneUnder } from '../axis/laneUnder';
import { useReadout } from '../axis/readout';
import { snap } from '../axis/snap';
import { targetsNow } from '../axis/targets';
import { dragged, readoutOf, shiftOf, type Span, type SpanPart } from '../axis/spanDrag';
import { useSeen } from '../axis/shown';

const MOVED_PX = 4;

/** The clip that is being dragged, and where it would lie. */
interface Dragged {
  id: string;
  span: Span;
  /** Whether its sound fills the new length, at another speed. */
  fit: boolean;
}

/** The clip that is being dragged; it draws itself. */
export const useDragged = create<{ clip: string | undefined }>()(() => ({ clip: undefined }));

/** Drags of the clips of a track, one at a time. */
export function useClipDrag(track: string) {
  const { clock } = useTools();
  const seen = useSeen();
  const [drag, setDrag] = useState<Dragged | undefined>();
  const begin =
    (clip: Clip, part: SpanPart, fit = false) =>
    (e: PointerEvent<Element>) => {
      if (e.button !== 0) return;
      e.preventDefault();
      e.stopPropagation();
      const document = useSession.getState().document ?? NOTHING;
      const { selection, select } = useSelection.getState();
      const { show } = useReadout.getState();
      const { scale } = seen();
      const choose = () => select({ kind: 'clip', id: clip.id });
      const own = { kind: 'clip', id: clip.id } as const;
      const chosen = isSelected(selection, own);
      const origin = clipSpan(clip);
      const startX = e.clientX;
      const targets = targetsNow(clock, clip.id);
      const frame = Math.ceil(clock.sampleRate / clock.framesPerSecond);
      let latest: Span | undefined;
      let onTrack: string | undefined;
      const ids = chosen ? clipsOf(selection) : [clip.id];
      const treatments = partsOf(selection).filter((p) => chosen && p.kind === 'treatment');
      const moved = (m: globalThis.PointerEvent): Command[] | undefined => {
        const dx = m.clientX - startX;
        const elsewhere = part === 'move' && trackAt(m, track);
        if (!latest && Math.abs(dx) < MOVED_PX && !elsewhere) return undefined;
        const to = dragged(part, origin, dx * scale, frame, (s) =>
          snap(s, targets, clock, scale, m.altKey),
        );
        latest = to.shape;
        onTrack = part === 'move' ? trackAt(m, track) : undefined;
        setDrag({ id: clip.id, span: latest, fit });
        useDragged.setState({ clip: clip.id });
        const name = document.tracks?.find((t) => t.id === onTrack)?.name;
        const percent = useSession.getState().derived?.speeds[clip.id]?.percent ?? 100;
        const text = fit
          ? fitText(clip, latest, clock, percent)
          : readoutOf(part, latest, clock, 'fade');
        show({ sample: to.at, to: to.to, text: name ? `${text} · to ${name}` : text });
        const command = fit
          ? fitOf(part, clip, latest)
          : commandOf(part, clip, ids, latest, onTrack);
        if (!command) return [];
        // Treatments that are selected with it go as far, each on its own track.
        const along =
          part === 'move' ? movedBy(treatments, shiftOf(clock, origin.start, latest.start)) : [];
        return [command, ...along];
      };
      const clicked = () => {
        if (e.shiftKey) select(withPart(selection, own));
        else choose();
      };
      holdPointer(e, {
        moved,
        clicked,
        dropped: () => {
          show(undefined);
          if (!chosen) choose();
        },
        over: () => {
          show(undefined);
          setDrag(undefined);
          useDragged.setState({ clip: undefined });
        },
      });
    };
  return { drag, begin };
}

/** The track under the pointer, if it is another one. */
function trackAt(e: globalThis.PointerEvent, own: string): string | undefined {
  const id = laneUnder(e)?.dataset['track'];
  return id === own ? undefined : id;
}
