import { useEffect, useReducer, useRef } from 'react';
import { useTools } from '../tools/context';
import { drawWave, type WavePart } from './drawWave';
import { inkOf } from './ink';

/** A wave on a canvas of its own. */
export function Wave({ media, from, samples, width, height, gain }: WavePart) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [arrivals, arrived] = useReducer((n: number) => n + 1, 0);
  const { scheme } = useTools();
  useEffect(() => {
    const element = canvas.current;
    if (!element || width < 1) return;
    const ratio = window.devicePixelRatio || 1;
    element.width = Math.round(width * ratio);
    element.height = Math.round(height * ratio);
    const g = element.getContext('2d');
    if (!g) return;
    g.scale(ratio, ratio);
    const ink = inkOf(element, '--wave', scheme);
    drawWave(g, ink, { media, from, samples, width, height, gain }, arrived);
  }, [media, from, samples, width, height, gain, arrivals, scheme]);
  return <canvas ref={canvas} className="wave" style={{ width, height }} aria-hidden="true" />;
}
