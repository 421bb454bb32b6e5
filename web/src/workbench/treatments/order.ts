/** Treatments that lie over one another, and where they are drawn. */
import type { Treatment } from '../../reel/document';

export function overlap(a: Treatment, b: Treatment): boolean {
  return a.start < b.start + b.length && b.start < a.start + a.length;
}

/** Stretches into which the time of a track is cut to find what overlaps. */
const STRETCHES = 1024;

/** Rows for treatments: those that overlap lie below one another, in processing order. */
export function rowsOf(treatments: Treatment[]): Map<string, number> {
  const rows = new Map<string, number>();
  const end = Math.max(1, ...treatments.map((t) => t.start + t.length));
  const start = Math.min(0, ...treatments.map((t) => t.start));
  const each = (end - start) / STRETCHES;
  const stretches: Treatment[][] = [];
  for (const t of treatments) {
    const first = Math.floor((t.start - start) / each);
    const last = Math.floor((t.start + t.length - start) / each);
    let row = 0;
    for (let k = first; k <= last; k++) {
      const here = (stretches[k] ??= []);
      for (const o of here) if (overlap(o, t)) row = Math.max(row, (rows.get(o.id) ?? 0) + 1);
      here.push(t);
    }
    rows.set(t.id, row);
  }
  return rows;
}
