/** How a keyframe goes on to the next: what each way is called, and how its line runs. */

export interface Way {
  ease: string;
  label: string;
  help: string;
  /** Its line from one value to another, in a box of 16 by 16 around the middle. */
  line: string;
}

export const WAYS: readonly Way[] = [
  { ease: 'hold', label: 'Hold', help: 'Stays, then steps', line: 'M-7 5H3V-5H7' },
  { ease: 'linear', label: 'Straight', help: 'At the same rate all the way', line: 'M-7 5L7 -5' },
  { ease: 'smooth', label: 'Smooth', help: 'Soft at both ends', line: 'M-7 5C1 5 -1 -5 7 -5' },
  {
    ease: 'bend',
    label: 'Curved',
    help: 'Early or late, as far as you bend it',
    line: 'M-7 5C4 4 6 1 7 -5',
  },
];

const OTHERS: Record<string, string> = { equal_power: 'Equal power', log: 'Slow start' };

/** What a way is called; older documents have some that are no longer offered. */
export function wayName(ease = 'linear'): string {
  return WAYS.find((way) => way.ease === ease)?.label ?? OTHERS[ease] ?? ease;
}

export function WayLine({ line }: { line: string }) {
  return (
    <svg width="16" height="16" viewBox="-8 -8 16 16" aria-hidden="true">
      <path d={line} className="way-line" />
    </svg>
  );
}
