import { Fragment, memo, useEffect, useReducer, useRef } from 'react';
import type { Clip } from '../../reel/document';
import { inkOf } from '../axis/ink';
import { drawWave, peaksIn } from '../axis/drawWave';
import { useDragged } from './useClipDrag';
import { useTools } from '../tools/context';
import { useSession } from '../../reel/session';
import { Contours } from './ClipView';
import { useShown } from '../axis/shown';
import { useWaveSize, waveGain } from '../axis/waveSize';
import { evenStretches, placeIn } from '../../time/outline';

/** Narrower clips have room for nothing but their wave. */
const NARROW_PX = 40;
/** What is drawn beyond the view, so that scrolling finds it. */
const MARGIN_PX = 160;

export function isNarrow(clip: Clip, scale: number): boolean {
  return clip.length / scale < NARROW_PX;
}

interface Props {
  clips: Clip[];
  height: number;
  top: number;
}

/**
 * Paper and waves of all clips of a track, on one canvas.
 *
 * A canvas each would be a layer each for the browser to put together, a thousand in a long reel.
 * The clip that is being dragged draws itself.
 */
export const ClipPaper = memo(function ClipPaper({ clips, height, top }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const { start, scale, width } = useShown();
  const [arrivals, arrived] = useReducer((n: number) => n + 1, 0);
  const { scheme, media, clock } = useTools();
  const dragged = useDragged((s) => s.clip);
  const speeds = useSession((s) => s.derived?.speeds);
  const factor = useWaveSize((s) => s.factor);
  const fitted = useWaveSize((s) => s.fitted);
  const wide = width + 2 * MARGIN_PX;
  useEffect(() => {
    const element = canvas.current;
    const g = element?.getContext('2d');
    if (!element || !g) return;
    const ratio = window.devicePixelRatio || 1;
    const size = [Math.round(wide * ratio), Math.round(height * ratio)] as const;
    // A new size lays the page out anew; the same one is only wiped.
    if (element.width !== size[0]) element.width = size[0];
    if (element.height !== size[1]) element.height = size[1];
    g.setTransform(ratio, 0, 0, ratio, 0, 0);
    g.clearRect(0, 0, wide, height);
    const [paper, ink, wave] = ['--paper', '--ink-2', '--wave'].map((name) =>
      inkOf(element, name, scheme),
    ) as [string, string, string];
    const first = start - MARGIN_PX * scale;
    const inView = clips.filter(
      (clip) =>
        clip.id !== dragged &&
        clip.start + clip.length > first &&
        clip.start < first + wide * scale,
    );
    const sizes = { factor, fitted };
    const outlineOf = (id: string) => speeds?.[id]?.outline;
    const place = (clip: Clip) => ({ left: (clip.start - first) / scale, w: clip.length / scale });

    // The narrow ones of a track are one drawing of paper, one of waves and one of frames.
    const narrow = inView.filter((clip) => isNarrow(clip, scale));
    const papers = new Path2D();
    const waves = new Path2D();
    const frames = new Path2D();
    for (const clip of narrow) {
      const { left, w } = place(clip);
      papers.rect(left, 0, Math.max(1, w), height);
      const map = outlineOf(clip.id);
      const own = (media.get(clip.media)?.rate ?? clock.sampleRate) / clock.sampleRate;
      const from = placeIn(clip, map, 0) * own;
      const rate = (placeIn(clip, map, clip.length) * own - from) / clip.length;
      const gain = waveGain(clip, map, own, sizes, arrived);
      const middle = height / 2;
      peaksIn(clip.media, from, scale * rate, Math.floor(w), arrived).forEach((most, px) => {
        const half = Math.min(middle - 1, most * gain * (middle - 2));
        waves.rect(left + px, middle - half, 1, 2 * half);
      });
      if (w > 2) frames.rect(left + 0.5, 0.5, w - 1, height - 1);
    }
    g.fillStyle = paper;
    g.fill(papers);
    g.fillStyle = wave;
    g.fill(waves);
    g.strokeStyle = ink;
    g.stroke(frames);

    for (const clip of inView.filter((clip) => !isNarrow(clip, scale))) {
      const { left, w } = place(clip);
      g.fillStyle = paper;
      g.fillRect(left, 0, w, height);
      const from = Math.max(clip.start, first);
      const to = Math.min(clip.start + clip.length, first + wide * scale);
      const medium = media.get(clip.media);
      if (!medium?.info.sound) continue;
      // Waves are drawn from the medium's own samples, whatever the reel's rate.
      const own = medium.rate / clock.sampleRate;
      const map = outlineOf(clip.id);
      const gain = waveGain(clip, map, own, sizes, arrived);
      for (const even of evenStretches(clip, map, from - clip.start, to - clip.start)) {
        const [begin, end] = even.source;
        if (end <= begin) continue;
        g.save();
        g.translate((clip.start + even.from - first) / scale, 1);
        const part = {
          media: clip.media,
          from: begin * own,
          samples: (end - begin) * own,
          width: (even.to - even.from) / scale,
          height: height - 2,
          gain,
        };
        drawWave(g, wave, part, arrived);
        g.restore();
      }
    }
    // What is off is as pale as its frame.
    g.fillStyle = inkOf(element, '--water', scheme);
    g.globalAlpha = 0.55;
    for (const clip of inView.filter((clip) => clip.enabled === false)) {
      const { left, w } = place(clip);
      g.fillRect(left, 0, w, height);
    }
    g.globalAlpha = 1;
  }, [
    clips,
    height,
    start,
    scale,
    wide,
    dragged,
    arrivals,
    scheme,
    media,
    clock,
    speeds,
    factor,
    fitted,
  ]);
  return (
    <canvas
      ref={canvas}
      className="clip-paper"
      style={{ width: wide, height, top, left: -MARGIN_PX }}
      aria-hidden="true"
    />
  );
});

/** Treatments and ring-out of narrow clips, hanging below them. */
export function NarrowTreatments(props: { clips: Clip[]; path: string; top: number }) {
  const { clips, path, top } = props;
  const { start, scale, width } = useShown();
  const tails = useSession((s) => s.derived?.tails);
  return clips.map((clip, c) => {
    const left = (clip.start - start) / scale;
    const w = clip.length / scale;
    const ringing = tails?.[`${path}.${c}.treatment`] ?? 0;
    const treated = clip.treatment?.effects?.some((e) => !e.bypass);
    if (!isNarrow(clip, scale) || !(treated || ringing > 0)) return null;
    if (left > width || left + w + ringing / scale < 0) return null;
    return (
      <Fragment key={clip.id}>
        {treated && (
          <div
            className="clip-treatment"
            style={{ left, width: Math.max(24, w), top: top + 5 }}
            aria-hidden="true"
          >
            <span className="ties" />
          </div>
        )}
        {ringing > 0 && (
          <Contours left={left + w} width={ringing / scale} top={top + 4} height={26} />
        )}
      </Fragment>
    );
  });
}
