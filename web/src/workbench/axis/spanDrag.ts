/** What a drag makes of anything that has a start, an end, and slopes inside at both. */
import type { Clock } from '../../time/clock';
import type { Snapped } from './snap';

/** All of it, one of its edges, or the inner end of one of its slopes. */
export type SpanPart = 'move' | 'start' | 'end' | 'head' | 'foot';

export interface Span {
  start: number;
  end: number;
  head: number;
  foot: number;
}

export interface Dragged {
  shape: Span;
  /** The sample that the pointer holds, and what it snapped to. */
  at: number;
  to: string;
}

/** A span after a part of it has been dragged by so many samples; an edge stops a frame short. */
export function dragged(
  part: SpanPart,
  from: Span,
  by: number,
  frame: number,
  to: (sample: number) => Snapped,
): Dragged {
  const length = from.end - from.start;
  if (part === 'move') {
    const a = to(from.start + by);
    const b = to(from.end + by);
    const byEnd = !a.to && b.to !== '';
    const start = Math.max(0, byEnd ? b.sample - length : a.sample);
    return {
      shape: { ...from, start, end: start + length },
      at: byEnd ? b.sample : start,
      to: byEnd ? b.to : a.to,
    };
  }
  if (part === 'start') {
    const s = to(from.start + by);
    const start = Math.max(0, Math.min(s.sample, from.end - frame));
    return { shape: { ...from, start }, at: start, to: s.to };
  }
  if (part === 'end') {
    const s = to(from.end + by);
    const end = Math.max(s.sample, from.start + frame);
    return { shape: { ...from, end }, at: end, to: s.to };
  }
  if (part === 'head') {
    const s = to(from.start + from.head + by);
    const at = Math.max(from.start, Math.min(s.sample, from.end - from.foot));
    return { shape: { ...from, head: at - from.start }, at, to: s.to };
  }
  const s = to(from.end - from.foot + by);
  const at = Math.min(from.end, Math.max(s.sample, from.start + from.head));
  return { shape: { ...from, foot: from.end - at }, at, to: s.to };
}

/** How far a part has gone: in frames, if it lies on frames before and after. */
export function shiftOf(clock: Clock, from: number, to: number) {
  const onFrames = [from, to].every((s) => clock.sampleOfFrame(clock.frameOfSample(s)) === s);
  if (!onFrames) return { samples: to - from };
  return { frames: clock.frameOfSample(to) - clock.frameOfSample(from) };
}

/** What is shown beside the pointer; `slope` names what is at the ends: a ramp, a fade. */
export function readoutOf(part: SpanPart, s: Span, clock: Clock, slope: string): string {
  const frames = (a: number, b: number) => clock.frameOfSample(b) - clock.frameOfSample(a);
  if (part === 'head') return `${slope} in ${frames(s.start, s.start + s.head)} f`;
  if (part === 'foot') return `${slope} out ${frames(s.end - s.foot, s.end)} f`;
  return `${clock.timecode(part === 'end' ? s.end : s.start)} · ${frames(s.start, s.end)} f long`;
}
