/** What a drag on a clip makes of it, and the edit that says so. */
import type { Clip, Ramp } from '../../reel/document';
import type { Command } from '../../reel/session';
import type { Clock } from '../../time/clock';
import type { Snapped } from './snap';

export type ClipPart = 'move' | 'start' | 'end' | 'fade-in' | 'fade-out';

export interface ClipShape {
  start: number;
  end: number;
  head: number;
  foot: number;
}

export function clipShape(clip: Clip): ClipShape {
  return {
    start: clip.start,
    end: clip.start + clip.length,
    head: clip.fade_in?.length ?? 0,
    foot: clip.fade_out?.length ?? 0,
  };
}

type Snapper = (sample: number) => Snapped;

/** The clip after its part has been dragged by so many samples, and what it snapped to. */
export function dragged(
  part: ClipPart,
  from: ClipShape,
  by: number,
  frame: number,
  to: Snapper,
): { shape: ClipShape; at: number; to: string } {
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
  if (part === 'fade-in') {
    const s = to(from.start + from.head + by);
    const at = Math.max(from.start, Math.min(s.sample, from.end - from.foot));
    return { shape: { ...from, head: at - from.start }, at, to: s.to };
  }
  const s = to(from.end - from.foot + by);
  const at = Math.min(from.end, Math.max(s.sample, from.start + from.head));
  return { shape: { ...from, foot: from.end - at }, at, to: s.to };
}

/** The edit for a drag; nothing if nothing has changed. */
export function commandOf(
  part: ClipPart,
  clip: Clip,
  ids: string[],
  to: ClipShape,
  clock: Clock,
  track?: string,
): Command | undefined {
  const from = clipShape(clip);
  if (part === 'move') {
    if (to.start === from.start && !track) return undefined;
    return {
      kind: 'move_clips',
      ids,
      ...shift(from.start, to.start, clock),
      ...(track && { track }),
    };
  }
  if (part === 'start' || part === 'end') {
    const at = part === 'start' ? to.start : to.end;
    if (at === from[part]) return undefined;
    return { kind: 'trim_clip', id: clip.id, edge: part, to: { sample: at } };
  }
  if (part === 'fade-in' && to.head !== from.head)
    return { kind: 'set_clip', id: clip.id, fade_in: byHand(clip.fade_in, to.head) };
  if (part === 'fade-out' && to.foot !== from.foot)
    return { kind: 'set_clip', id: clip.id, fade_out: byHand(clip.fade_out, to.foot) };
  return undefined;
}

/** A fade that is set by hand no longer follows an overlap. */
export function byHand(fade: Ramp | undefined, length: number): Ramp {
  return { length, ...(fade?.shape && { shape: fade.shape }) };
}

/** A move in frames where it goes from frame to frame, else in samples. */
function shift(from: number, to: number, clock: Clock) {
  const frame = clock.frameOfSample(from);
  const target = clock.frameOfSample(to);
  if (clock.sampleOfFrame(frame) === from && clock.sampleOfFrame(target) === to)
    return { frames: target - frame };
  return { samples: to - from };
}

export function readoutOf(part: ClipPart, s: ClipShape, clock: Clock): string {
  const frames = (a: number, b: number) => clock.frameOfSample(b) - clock.frameOfSample(a);
  if (part === 'fade-in') return `fade in ${frames(s.start, s.start + s.head)} f`;
  if (part === 'fade-out') return `fade out ${frames(s.end - s.foot, s.end)} f`;
  return `${clock.timecode(part === 'end' ? s.end : s.start)} · ${frames(s.start, s.end)} f long`;
}
