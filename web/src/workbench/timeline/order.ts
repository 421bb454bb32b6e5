/** Treatments that lie over one another. */
import type { Treatment } from '../../reel/document';

export function overlap(a: Treatment, b: Treatment): boolean {
  return a.start < b.start + b.length && b.start < a.start + a.length;
}
