/** Which stretch of the reel the timeline shows. */
import { useLayoutEffect, useRef } from 'react';
import { create } from 'zustand';
import { usePlayer } from '../../player/player';

interface View {
  /** Sample at the left edge. */
  start: number;
  /** Samples a pixel. */
  scale: number;
  /** Pixels. */
  width: number;
  /** Samples of the reel. */
  length: number;
  set: (view: Partial<Pick<View, 'start' | 'scale' | 'width' | 'length'>>) => void;
  /** Zoom by a factor, keeping the sample under pixel `x` where it is. */
  zoom: (factor: number, x: number) => void;
  fit: (from: number, to: number) => void;
}

/** Pixels of the tracks' heads, as `--heads` in the tokens. */
export const HEADS = 140;
export const FINEST = 0.05;
const MARGIN = 1.02;

export const useView = create<View>()((set, get) => {
  const clamp = (start: number, scale: number) => {
    const { width, length } = get();
    const widest = Math.max(FINEST, (length * MARGIN) / Math.max(1, width));
    const s = Math.min(Math.max(FINEST, scale), widest);
    const last = Math.max(0, length * MARGIN - s * width);
    return { scale: s, start: Math.min(Math.max(0, start), last) };
  };
  return {
    start: 0,
    scale: 1000,
    width: 800,
    length: 1,
    set: (view) => {
      set(view);
      set(clamp(get().start, get().scale));
    },
    zoom: (factor, x) => {
      const { start, scale } = get();
      const at = start + x * scale;
      const next = clamp(0, scale * factor).scale;
      set(clamp(at - x * next, next));
    },
    fit: (from, to) => {
      const { width } = get();
      const scale = Math.max(FINEST, ((to - from) * MARGIN) / Math.max(1, width));
      set(clamp(from - (scale * width - (to - from)) / 2, scale));
    },
  };
});

export function useX(): (sample: number) => number {
  const start = useView((v) => v.start);
  const scale = useView((v) => v.scale);
  return (sample) => (sample - start) / scale;
}

/**
 * Draw by hand where the playhead is, whenever it has gone on by a pixel or the view has changed.
 *
 * In between there is nothing to see: a screen on which nothing moves need not be drawn, and that
 * leaves the more room for what a hand does.
 */
export function usePlace(draw: (px: number, view: View) => void) {
  const latest = useRef(draw);
  useLayoutEffect(() => {
    latest.current = draw;
  });
  useLayoutEffect(() => {
    let drawn: { px: number; view: View } | undefined;
    const now = () => {
      const view = useView.getState();
      const ratio = window.devicePixelRatio || 1;
      const px = (usePlayer.getState().position - view.start) / view.scale;
      const whole = Math.round(px * ratio) / ratio;
      if (drawn?.px === whole && drawn.view === view) return;
      drawn = { px: whole, view };
      latest.current(whole, view);
    };
    now();
    const leave = [usePlayer.subscribe(now), useView.subscribe(now)];
    return () => leave.forEach((l) => l());
  }, []);
}
