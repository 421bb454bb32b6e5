/** A clip as a span with fades, and the edits that its drags stand for. */
import type { Clip } from '../../reel/document';
import type { Command } from '../../reel/session';
import type { Clock } from '../../time/clock';
import type { Span, SpanPart } from '../axis/spanDrag';

export function clipSpan(clip: Clip): Span {
  return {
    start: clip.start,
    end: clip.start + clip.length,
    head: clip.fade_in?.length ?? 0,
    foot: clip.fade_out?.length ?? 0,
  };
}

/** The edit for a drag; nothing if nothing has changed. `ids` are all that move with the clip. */
export function commandOf(
  part: SpanPart,
  clip: Clip,
  ids: string[],
  to: Span,
  track?: string,
): Command | undefined {
  const from = clipSpan(clip);
  if (part === 'move') {
    if (to.start === from.start && !track) return undefined;
    const all = [clip.id, ...ids.filter((id) => id !== clip.id)];
    return { kind: 'move_clips', ids: all, to: { sample: to.start }, ...(track && { track }) };
  }
  if (part === 'start' || part === 'end') {
    if (to[part] === from[part]) return undefined;
    return { kind: 'trim_clip', id: clip.id, edge: part, to: { sample: to[part] } };
  }
  if (to[part] === from[part]) return undefined;
  const edge = part === 'head' ? 'in' : 'out';
  return { kind: 'set_fade', id: clip.id, edge, fade: { length: to[part] } };
}

/** The edit that fits a clip's sound to where an edge was dragged. */
export function fitOf(part: SpanPart, clip: Clip, to: Span): Command | undefined {
  if ((part !== 'start' && part !== 'end') || to[part] === clipSpan(clip)[part]) return undefined;
  return { kind: 'fit_clip', id: clip.id, edge: part, to: { sample: to[part] } };
}

/** "51 f long · 131.4 %", for the read-out beside the pointer. */
export function fitText(clip: Clip, to: Span, clock: Clock, percent: number): string {
  const frames = clock.frameOfSample(to.end) - clock.frameOfSample(to.start);
  const fitted = (percent * clip.length) / (to.end - to.start);
  return `${frames} f long · ${fitted.toFixed(1)} %`;
}
