/** Moving the sound inside a clip, by its lower grip. */
import { useState, type PointerEvent } from 'react';
import type { Clip } from '../../reel/document';
import { drag } from '../../hand/pointer';
import { useSession, type Command } from '../../reel/session';
import { placeIn } from '../../time/outline';
import { useTools } from '../tools/context';
import { useReadout } from '../axis/readout';
import { useSeen } from '../axis/shown';
import { useDragged } from './useClipDrag';

/** @returns Samples by which the sound would lie later, and what begins a drag. */
export function useSlip(clip: Clip) {
  const { clock } = useTools();
  const seen = useSeen();
  const [slip, setSlip] = useState<number | undefined>();
  const begin = (e: PointerEvent<Element>) => {
    if (e.button !== 0) return;
    e.preventDefault();
    e.stopPropagation();
    const { scale } = seen();
    const { show } = useReadout.getState();
    const frame = clock.sampleRate / clock.framesPerSecond;
    // Nothing of a wave is drawn before its beginning.
    const outline = useSession.getState().derived?.speeds[clip.id]?.outline;
    const first = placeIn(clip, outline, 0);
    const rate = (placeIn(clip, outline, clip.length) - first) / clip.length;
    const inside = first / Math.max(0.01, rate);
    const from = e.clientX;
    const moved = (m: globalThis.PointerEvent): Command[] => {
      const wanted = (m.clientX - from) * scale;
      // In frames, unless a modifier is held; never before the sound's own beginning.
      const stepped = m.altKey
        ? Math.round(wanted)
        : Math.round(Math.round(wanted / frame) * frame);
      const by = Math.min(Math.floor(inside), stepped);
      setSlip(by);
      useDragged.setState({ clip: clip.id });
      const ms = Math.round((1000 * by) / clock.sampleRate);
      const text = `sound ${Math.round(by / frame)} f (${ms} ms) ${by < 0 ? 'earlier' : 'later'}`;
      show({ sample: clip.start, to: '', text });
      return by ? [{ kind: 'slip_clip', id: clip.id, later: by }] : [];
    };
    drag(e, {
      moved,
      dropped: () => show(undefined),
      over: () => {
        show(undefined);
        setSlip(undefined);
        useDragged.setState({ clip: undefined });
      },
    });
  };
  return { slip, begin };
}
