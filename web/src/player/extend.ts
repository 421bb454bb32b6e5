/**
 * Sound that goes on as it has been: for a moment after its last sample.
 *
 * Linear prediction by Burg's method (J. P. Burg, "Maximum Entropy Spectral Analysis", PhD thesis,
 * Stanford 1975), as is usual for gaps in sound (I. Kauppinen and K. Roth, "Audio Signal
 * Extrapolation – Theory and Applications", DAFx 2002). It never grows.
 */
const ORDER = 32;
/** Samples that are looked back at. */
export const PAST = 960;

/** `count` samples that follow on `past`. */
export function extended(past: Float32Array, count: number): Float32Array {
  const out = new Float32Array(count);
  const order = Math.min(ORDER, Math.floor(past.length / 3));
  const weights = burg(past, order);
  const line = new Float64Array(order + count);
  for (let k = 0; k < order; k++) line[k] = past[past.length - order + k]!;
  for (let i = 0; i < count; i++) {
    let sum = 0;
    for (let k = 0; k < order; k++) sum -= weights[k]! * line[order + i - 1 - k]!;
    line[order + i] = sum;
    out[i] = sum;
  }
  return out;
}

/** Coefficients a₁ … a_p of x[n] + a₁ x[n − 1] + … + a_p x[n − p] = what cannot be foreseen. */
function burg(x: Float32Array, order: number): Float64Array {
  const n = x.length;
  const forward = Float64Array.from(x);
  const backward = Float64Array.from(x);
  const a = new Float64Array(order);
  const before = new Float64Array(order);
  for (let m = 0; m < order; m++) {
    let cross = 0;
    let power = 0;
    for (let i = m + 1; i < n; i++) {
      const f = forward[i]!;
      const b = backward[i - 1]!;
      cross += f * b;
      power += f * f + b * b;
    }
    // Silence, or a sound of which nothing is left to foresee.
    if (power <= 1e-30) break;
    const reflection = (-2 * cross) / power;
    before.set(a);
    a[m] = reflection;
    for (let k = 0; k < m; k++) a[k] = before[k]! + reflection * before[m - 1 - k]!;
    for (let i = n - 1; i > m; i--) {
      const f = forward[i]!;
      const b = backward[i - 1]!;
      forward[i] = f + reflection * b;
      backward[i] = b + reflection * f;
    }
  }
  return a;
}
