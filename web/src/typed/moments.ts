/** Moments and lengths as people type them, with the reason where they are none. */
import type { Clock } from '../time/clock';
import { readLength } from '../time/length';
import { readMoment } from '../time/moment';
import { plainly, type Reading } from './values';

/** A moment: "1:04:10", "64.4 s", or a step from here such as "+12 f". */
export function momentFrom(clock: Clock, text: string, here: number): Reading {
  const value = readMoment(clock, text, here);
  if (value !== undefined) return { value };
  return { why: `write a moment as 1:04:10, 64.4 s, +12 f or −2 s, not as “${text.trim()}”` };
}

/** A length that begins at `start`: "10 s", "250 f", "1:05:00"; "85 %" is a share of `now`. */
export function lengthFrom(clock: Clock, text: string, start: number, now: number): Reading {
  const share = /^(\d+(?:[.,]\d+)?) ?%$/.exec(plainly(text));
  if (share) {
    const value = Math.round((now * Number(share[1]!.replace(',', '.'))) / 100);
    if (value > 0) return { value };
  }
  const value = share ? undefined : readLength(clock, text, start);
  if (value !== undefined) return { value };
  return { why: `write a length as 10 s, 250 f, 1:05:00 or 85 %, not as “${text.trim()}”` };
}
