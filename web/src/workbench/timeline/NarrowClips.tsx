import { useComputedColorScheme } from '@mantine/core';
import { memo, useEffect, useReducer, useRef } from 'react';
import { firstValue, type Clip } from '../../reel/document';
import { inkOf } from './ink';
import { peaksOf, sizeFor } from './peaks';
import { useShown } from './shown';

/** Narrower clips share one drawing: a canvas each would be a thousand of them in a long reel. */
export const NARROW_PX = 40;

interface Props {
  clips: Clip[];
  height: number;
  top: number;
}

/** Paper and waves of the clips of a track that are too narrow for more. */
export const NarrowClips = memo(function NarrowClips({ clips, height, top }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const { start, scale, width } = useShown();
  const [arrivals, arrived] = useReducer((n: number) => n + 1, 0);
  const scheme = useComputedColorScheme();
  const any = clips.some((c) => c.length / scale < NARROW_PX);
  useEffect(() => {
    const element = canvas.current;
    if (!element || !any) return;
    const ratio = window.devicePixelRatio || 1;
    const g = element.getContext('2d');
    if (!g) return;
    const size = [Math.round(width * ratio), Math.round(height * ratio)] as const;
    // A new size lays the page out anew; the same one is only wiped.
    if (element.width !== size[0]) element.width = size[0];
    if (element.height !== size[1]) element.height = size[1];
    g.setTransform(ratio, 0, 0, ratio, 0, 0);
    g.clearRect(0, 0, width, height);
    const [paper, ink, wave] = ['--paper', '--ink-2', '--wave'].map((name) =>
      inkOf(element, name, scheme),
    ) as [string, string, string];
    const middle = height / 2;
    for (const clip of clips) {
      const left = (clip.start - start) / scale;
      const w = clip.length / scale;
      if (w >= NARROW_PX || left + w < 0 || left > width) continue;
      g.globalAlpha = clip.enabled === false ? 0.45 : 1;
      g.fillStyle = paper;
      g.fillRect(left, 0, Math.max(1, w), height);
      g.fillStyle = wave;
      const peaks = peaksOf(clip.media, sizeFor(scale), arrived);
      const reach = (middle - 2) * 10 ** (firstValue(clip.gain_db, 0) / 20);
      for (let px = 1; peaks && px < w - 1; px++) {
        const at = (clip.source_start ?? 0) + px * scale;
        const a = Math.floor(at / peaks.size);
        const b = Math.max(a + 1, Math.floor((at + scale) / peaks.size));
        let most = 0;
        for (let i = Math.max(0, a); i < b && 3 * i + 1 < peaks.data.length; i++)
          most = Math.max(most, peaks.data[3 * i + 1]! / 32767, -peaks.data[3 * i]! / 32767);
        const half = Math.min(middle - 1, most * reach);
        g.fillRect(left + px, middle - half, 1, 2 * half);
      }
      g.strokeStyle = ink;
      if (w > 2) g.strokeRect(left + 0.5, 0.5, w - 1, height - 1);
    }
  }, [clips, height, start, scale, width, any, arrivals, scheme]);
  if (!any) return null;
  return (
    <canvas
      ref={canvas}
      className="narrow-clips"
      style={{ width, height, top }}
      aria-hidden="true"
    />
  );
});
