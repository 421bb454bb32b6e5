/** Numbers with units: shown, and laid on a control's travel. */
import type { ParameterTable } from '../../api/client';

type Scaled = Pick<ParameterTable, 'unit' | 'low' | 'high' | 'scale' | 'whole'>;

export const STEPS = 1000;

/** Where a value lies on a control's travel, 0 to 1. */
export function shareOf(p: Scaled, value: number): number {
  const v = Math.min(p.high, Math.max(p.low, value));
  if (p.scale === 'log') return Math.log(v / p.low) / Math.log(p.high / p.low);
  return (v - p.low) / (p.high - p.low);
}

/** The value at a place on a control's travel, rounded to what one would type. */
export function valueAt(p: Scaled, share: number): number {
  const s = Math.min(1, Math.max(0, share));
  const exact = p.scale === 'log' ? p.low * (p.high / p.low) ** s : p.low + s * (p.high - p.low);
  return rounded(p, exact);
}

export function rounded(p: Scaled, value: number): number {
  const clamped = Math.min(p.high, Math.max(p.low, value));
  if (p.whole) return Math.round(clamped);
  const size = Math.abs(clamped);
  const step =
    p.unit === 'dB' ? 0.1 : size >= 1000 ? 10 : size >= 100 ? 1 : size >= 10 ? 0.1 : 0.01;
  const value2 = Math.round(clamped / step) * step;
  return Math.min(p.high, Math.max(p.low, Number(value2.toFixed(4))));
}

export function formatValue(p: Scaled, value: number): string {
  if (p.unit === 'dB' && value <= -96) return 'silent';
  if (p.unit === 'dB') return `${figure(value)} dB`;
  const digits = p.whole || Math.abs(value) >= 100 ? 0 : Math.abs(value) >= 10 ? 1 : 2;
  const text = Number(value.toFixed(digits)).toString().replace('-', '−');
  if (p.unit === ':1') return `${text}:1`;
  return p.unit ? `${text} ${p.unit}` : text;
}

/** A figure with a minus as it is printed; a dash where there is none. */
export function figure(value: number | null | undefined, digits = 1): string {
  if (value === undefined || value === null) return '—';
  // What is rounded away has no sign.
  const text = value.toFixed(digits);
  return (Number(text) === 0 ? text.replace('-', '') : text).replace('-', '−');
}

/** "+1.65", "−3": always with its sign, to the hundredth. */
export function formatSigned(value: number): string {
  const size = Number(Math.abs(value).toFixed(2));
  return `${value < 0 ? '−' : '+'}${size}`;
}
