/** Reading moments as people type them: timecode with parts left out, or a step from here. */
import type { Clock } from './clock';

/**
 * The sample that a text names, seen from the sample `here`; undefined if it names none.
 *
 * "1:04:10" is one minute, four seconds, ten frames; "10" is frame ten; "64.4s" and "12f" count
 * from the reel's start; with a sign they are steps.
 */
export function readMoment(clock: Clock, text: string, here: number): number | undefined {
  const found = /^\s*([+−-])?\s*([\d:;.,]+)\s*(f|s)?\s*$/i.exec(text);
  if (!found) return undefined;
  const [, sign, number = '', unit] = found;
  const step = sign === undefined ? 0 : sign === '+' ? 1 : -1;
  if (/[:;]/.test(number)) {
    if (unit || /[.,]/.test(number)) return undefined;
    if (!step) return clock.parse(filled(number));
    const frames = framesOf(clock, number);
    return frames === undefined ? undefined : moved(clock, here, step * frames);
  }
  const value = Number(number.replace(',', '.'));
  if (!Number.isFinite(value)) return undefined;
  if (unit?.toLowerCase() === 's') {
    const samples = Math.round(value * clock.sampleRate);
    return step ? Math.max(0, here + step * samples) : samples;
  }
  if (!Number.isInteger(value)) return undefined;
  return step ? moved(clock, here, step * value) : clock.sampleOfFrame(value);
}

/** Timecode with its leading parts: "1:04:10" becomes "00:01:04:10". */
function filled(text: string): string {
  const separator = text.includes(';') ? ';' : ':';
  const parts = text.split(/[:;]/);
  if (parts.length > 4) return text;
  while (parts.length < 4) parts.unshift('0');
  const two = parts.map((p) => p.padStart(2, '0'));
  return `${two.slice(0, 3).join(':')}${separator}${two[3]}`;
}

/** Frames of a length as timecode, its leading parts left out: "1:10" is 35 at 25. */
export function framesOf(clock: Clock, text: string): number | undefined {
  const parts = text.split(/[:;]/).map(Number);
  if (parts.length > 4 || parts.some((p) => !Number.isInteger(p))) return undefined;
  const [hours = 0, minutes = 0, seconds = 0, frames = 0] = [
    ...Array<number>(4 - parts.length).fill(0),
    ...parts,
  ];
  return ((hours * 60 + minutes) * 60 + seconds) * clock.nominal + frames;
}

function moved(clock: Clock, here: number, frames: number): number {
  return clock.sampleOfFrame(Math.max(0, clock.frameOfSample(here) + frames));
}
