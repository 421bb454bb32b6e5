/** Places on a drawing's axes. */
import type { Schemas } from '../../../api/client';

export type Axis = Schemas['AxisData'];

/** Share of the axis at a value, 0 to 1 within its range. */
export function shareOn(axis: Axis, value: number): number {
  if (axis.scale === 'log')
    return Math.log(Math.max(value, axis.low * 1e-3) / axis.low) / Math.log(axis.high / axis.low);
  return (value - axis.low) / (axis.high - axis.low);
}

/** The value at a share of the axis. */
export function valueOn(axis: Axis, share: number): number {
  const s = Math.min(1, Math.max(0, share));
  if (axis.scale === 'log') return axis.low * (axis.high / axis.low) ** s;
  return axis.low + s * (axis.high - axis.low);
}

/** A few round values within the axis. */
export function ticks(axis: Axis): number[] {
  if (axis.scale === 'log') {
    const found = [];
    for (let decade = 1; decade < 1e6; decade *= 10)
      if (decade >= axis.low * 0.999 && decade <= axis.high * 1.001) found.push(decade);
    return found;
  }
  const rough = (axis.high - axis.low) / 4;
  const power = 10 ** Math.floor(Math.log10(rough));
  const step = [1, 2, 5, 10].map((k) => k * power).find((s) => s >= rough) ?? rough;
  const found = [];
  for (let k = Math.ceil(axis.low / step); k * step <= axis.high + 1e-9; k++) found.push(k * step);
  return found;
}

export function tickText(axis: Axis, value: number): string {
  if (axis.unit === 'Hz' && value >= 1000) return `${value / 1000}k`;
  return Number(value.toPrecision(3)).toString().replace('-', '−');
}
