/** Reading values of an analysis, under the pointer or by the arrow keys. */
import { useState, type KeyboardEvent, type PointerEvent, type RefObject } from 'react';
import { useReadout } from '../axis/readout';
import { useTools } from '../tools/context';
import type { Box } from './looks/look';
import type { Picture } from './picture';

interface At {
  sample: number;
  share: number;
}

export function useCursor(picture: Picture, body: RefObject<HTMLDivElement | null>, box: Box) {
  const { clock, player } = useTools();
  const show = useReadout((s) => s.show);
  const [at, setAt] = useState<At>();
  const textAt = ({ sample, share }: At) => {
    const text = picture.read(sample, share);
    return `${clock.timecode(sample)}${text && ` · ${text}`}`;
  };
  const say = (place: At) => show({ sample: place.sample, to: '', text: textAt(place) });
  const point = (e: PointerEvent): At | undefined => {
    const area = body.current?.getBoundingClientRect();
    if (!area) return undefined;
    const share = 1 - (e.clientY - area.top) / area.height;
    return {
      sample: Math.max(0, box.start + (e.clientX - area.left) * box.scale),
      share: Math.min(1, Math.max(0, share)),
    };
  };
  const handlers = {
    onPointerMove: (e: PointerEvent) => {
      const place = point(e);
      if (place && e.buttons === 0) say(place);
    },
    onPointerDown: (e: PointerEvent) => {
      const place = point(e);
      if (place && e.button === 0) player.seek(Math.round(place.sample));
    },
    onPointerLeave: () => show(undefined),
    onBlur: () => {
      setAt(undefined);
      show(undefined);
    },
    onKeyDown: (e: KeyboardEvent) => {
      const by = (e.shiftKey ? 10 : 1) * (e.key === 'ArrowLeft' || e.key === 'ArrowDown' ? -1 : 1);
      const along = e.key === 'ArrowLeft' || e.key === 'ArrowRight';
      if ((!along && e.key !== 'ArrowUp' && e.key !== 'ArrowDown') || e.ctrlKey || e.altKey) return;
      e.preventDefault();
      e.stopPropagation();
      const middle = { sample: box.start + (box.width * box.scale) / 2, share: 0.5 };
      const { sample, share } = at ?? middle;
      const step = Math.max(picture.each, box.scale);
      const next = along
        ? { sample: Math.max(0, sample + by * step), share }
        : { sample, share: Math.min(0.999, Math.max(0.001, share + by / picture.rows)) };
      setAt(next);
      say(next);
    },
  };
  return { at, text: at && textAt(at), handlers };
}
