/** Snapping: to frames always, and to cuts, markers and edges when near. */
import type { ReelDocument } from '../../reel/document';
import type { Clock } from '../../time/clock';

export interface Snapped {
  sample: number;
  /** What it snapped to, or nothing but a frame. */
  to: string;
}

export interface Target {
  sample: number;
  name: string;
}

export const REACH_PX = 9;
export const CLICK_REACH_PX = 3;

/** All places worth snapping to, except those of the part that is being moved. */
export function snapTargets(
  document: ReelDocument,
  clock: Clock,
  playhead: number,
  except?: string,
  beats: number[] = [],
): Target[] {
  const targets: Target[] = [{ sample: 0, name: 'start' }];
  for (const cut of document.picture?.cuts ?? [])
    targets.push({ sample: clock.sampleOfFrame(cut), name: 'cut' });
  for (const marker of document.markers ?? [])
    if (marker.id !== except) targets.push({ sample: marker.at, name: marker.label || 'marker' });
  for (const track of document.tracks ?? []) {
    for (const clip of track.clips ?? []) {
      if (clip.id === except) continue;
      targets.push({ sample: clip.start, name: 'clip' });
      targets.push({ sample: clip.start + clip.length, name: 'clip end' });
    }
    for (const t of track.treatments ?? []) {
      if (t.id === except) continue;
      targets.push({ sample: t.start, name: t.name || 'treatment' });
      targets.push({ sample: t.start + t.length, name: t.name || 'treatment' });
    }
  }
  for (const beat of beats) targets.push({ sample: beat, name: 'beat' });
  targets.push({ sample: playhead, name: 'playhead' });
  return targets;
}

/**
 * The frame or the target nearest to a sample; with `free`, targets do not pull.
 *
 * A click goes where it is made: there targets pull from a smaller distance.
 */
export function snap(
  sample: number,
  targets: Target[],
  clock: Clock,
  samplesPerPixel: number,
  free = false,
  reachPx = REACH_PX,
): Snapped {
  const reach = reachPx * samplesPerPixel;
  let best: Target | undefined;
  if (!free)
    for (const target of targets) {
      const distance = Math.abs(target.sample - sample);
      if (distance <= reach && (!best || distance < Math.abs(best.sample - sample))) best = target;
    }
  const wanted = best ? best.sample : sample;
  const frame = clock.frameOfSample(Math.max(0, wanted));
  const here = clock.sampleOfFrame(frame);
  const next = clock.sampleOfFrame(frame + 1);
  const onFrame = wanted - here <= next - wanted ? here : next;
  return { sample: onFrame, to: best?.name ?? '' };
}
