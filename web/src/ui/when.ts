/** A day and a minute, as they are written where one is: "Dec 1, 2026, 4:17 AM". */
export function whenOf(moment: string): string {
  return new Date(moment).toLocaleString([], { dateStyle: 'medium', timeStyle: 'short' });
}

/** The same of what is mostly of today, which is left out then. */
export function timeOrDay(moment: string, now = new Date()): string {
  const then = new Date(moment);
  if (then.toDateString() !== now.toDateString()) return whenOf(moment);
  return then.toLocaleTimeString([], { timeStyle: 'medium' });
}
