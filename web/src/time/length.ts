/** Reading lengths as people type them. */
import type { Clock } from './clock';
import { framesOf } from './moment';

/**
 * The samples of a length that begins at `start`: "10 s", "250 f", "1:05:00" or "9.5"; a bare
 * number are seconds. Undefined if it is none.
 */
export function readLength(clock: Clock, text: string, start: number): number | undefined {
  const found = /^\s*([\d:;.,]+)\s*(s|f|ms)?\s*$/i.exec(text);
  if (!found) return undefined;
  const number = found[1]!;
  const unit = found[2]?.toLowerCase();
  if (/[:;]/.test(number)) {
    const whole = unit ? undefined : framesOf(clock, number);
    if (whole === undefined) return undefined;
    return ofFrames(clock, start, whole);
  }
  const value = Number(number.replace(',', '.'));
  if (!Number.isFinite(value) || value <= 0) return undefined;
  if (unit === 'f') return ofFrames(clock, start, Math.round(value));
  return Math.round((unit === 'ms' ? value / 1000 : value) * clock.sampleRate) || undefined;
}

/** From a place on a frame to another: frames need not have equal numbers of samples. */
function ofFrames(clock: Clock, start: number, frames: number): number | undefined {
  const first = clock.frameOfSample(start);
  const on = clock.sampleOfFrame(first) === start;
  const length = on
    ? clock.sampleOfFrame(first + frames) - start
    : Math.round((frames * clock.sampleRate) / clock.framesPerSecond);
  return length > 0 ? length : undefined;
}
