/**
 * Meters by the standards that the core measures by: K-weighting and gates of ITU-R BS.1770 and EBU
 * R 128, the true peak at sixteen times the rate, correlation of both sides.
 *
 * What is measured is what is heard of the reel. `tests/core/measure/meter.json` holds what the core
 * finds in made sounds; both are tried on it.
 */
import { lufs, Spread } from './spread';

type Row = [weighted: number, left: number, right: number, both: number];

const HOPS_A_SECOND = 10;
const MOMENTARY = 4;
const SHORT_TERM = 30;
const FACTOR = 16;
const TAPS = 64;
/** From one place that is looked at to the next. */
const STEP = 4;
/** Samples that are kept: the places just before a sample are looked at once more. */
const KEPT = TAPS + 1;
const NEAR = 0.9;
const KAISER = 9;

export interface Levels {
  /** LUFS; undefined while there is nothing to say. */
  momentary: number | undefined;
  shortTerm: number | undefined;
  integrated: number | undefined;
  /** LU. */
  range: number | undefined;
  /** dBTP and dBFS since the last reset. */
  truePeak: number | undefined;
  samplePeak: number | undefined;
  /** Of left and right over the last 400 ms, −1 to 1. */
  correlation: number | undefined;
}

type Section = readonly [number, number, number, number, number];

/** Coefficients of the K-weighting at any rate; see `core/measure/loudness.py`. */
export function kWeighting(rate: number): [Section, Section] {
  let k = Math.tan((Math.PI * 1681.974450955533) / rate);
  let q = 0.7071752369554196;
  const vh = 10 ** (3.999843853973347 / 20);
  const vb = vh ** 0.4996667741545416;
  let a0 = 1 + k / q + k * k;
  const shelf: Section = [
    (vh + (vb * k) / q + k * k) / a0,
    (2 * (k * k - vh)) / a0,
    (vh - (vb * k) / q + k * k) / a0,
    (2 * (k * k - 1)) / a0,
    (1 - k / q + k * k) / a0,
  ];
  k = Math.tan((Math.PI * 38.13547087602444) / rate);
  q = 0.5003270373238773;
  a0 = 1 + k / q + k * k;
  return [shelf, [1, -2, 1, (2 * (k * k - 1)) / a0, (1 - k / q + k * k) / a0]];
}

class Biquad {
  private z1 = 0;
  private z2 = 0;

  private readonly b0: number;
  private readonly b1: number;
  private readonly b2: number;
  private readonly a1: number;
  private readonly a2: number;

  constructor(section: Section) {
    [this.b0, this.b1, this.b2, this.a1, this.a2] = section;
  }

  next(x: number): number {
    const y = this.b0 * x + this.z1;
    this.z1 = this.b1 * x - this.a1 * y + this.z2;
    this.z2 = this.b2 * x - this.a2 * y;
    return y;
  }
}

function bessel(x: number): number {
  let sum = 1;
  let term = 1;
  for (let k = 1; term > sum * 1e-17; k++) {
    term *= (x / (2 * k)) ** 2;
    sum += term;
  }
  return sum;
}

/** Low-pass that interpolates by 16, by phases of 64 taps; see `core/measure/between.py`. */
export function interpolator(): Float64Array[] {
  const n = FACTOR * TAPS + 1;
  const middle = (n - 1) / 2;
  const taps = Float64Array.from({ length: n }, (_, i) => {
    const t = (i - middle) / FACTOR;
    const sinc = t === 0 ? 1 : Math.sin(Math.PI * t) / (Math.PI * t);
    const u = (i - middle) / middle;
    return sinc * bessel(KAISER * Math.sqrt(Math.max(0, 1 - u * u)));
  });
  const sum = taps.reduce((a, b) => a + b, 0);
  return Array.from({ length: FACTOR }, (_, p) =>
    Float64Array.from({ length: TAPS }, (_, k) => {
      return (taps[(TAPS - 1 - k) * FACTOR + p]! * FACTOR) / sum;
    }),
  );
}

/**
 * The largest value between the samples of one side: every fourth of the sixteen places is looked
 * at, and those around it where it is a top.
 */
class TruePeak {
  /** Kept twice, so that the last 65 samples always lie in a row. */
  private readonly past = new Float64Array(2 * KEPT);
  private at = 0;
  /** The last two values that were looked at. */
  private before = 0;
  private last = 0;
  top = 0;

  constructor(private readonly phases: Float64Array[]) {}

  next(x: number) {
    const { past, phases } = this;
    past[this.at] = x;
    past[this.at + KEPT] = x;
    this.at = (this.at + 1) % KEPT;
    const first = this.at + 1;
    const one = phases[STEP]!;
    const two = phases[2 * STEP]!;
    const three = phases[3 * STEP]!;
    let a = 0;
    let b = 0;
    let c = 0;
    // The three places between two samples together: each sample is looked up once.
    for (let k = 0; k < TAPS; k++) {
      const sample = past[first + k]!;
      a += one[k]! * sample;
      b += two[k]! * sample;
      c += three[k]! * sample;
    }
    // At a sample itself there is nothing to interpolate.
    this.look(0, Math.abs(past[first + TAPS / 2 - 1]!));
    this.look(STEP, Math.abs(a));
    this.look(2 * STEP, Math.abs(b));
    this.look(3 * STEP, Math.abs(c));
  }

  /** A value, at so many sixteenths behind a sample; where the one before it is a top, around that. */
  private look(phase: number, y: number) {
    if (this.last >= this.before && this.last >= y && this.last > NEAR * this.top)
      for (let d = 1 - STEP; d < STEP; d++) this.hold(this.value(phase - STEP + d));
    this.hold(y);
    this.before = this.last;
    this.last = y;
  }

  private hold(y: number) {
    if (y > this.top) this.top = y;
  }

  /** Value at so many sixteenths behind a sample; below zero, behind the one before it. */
  private value(place: number): number {
    const behind = Math.floor(place / FACTOR);
    const phase = place - behind * FACTOR;
    // The middle of the 64: at a sample itself there is nothing to interpolate.
    const first = this.at + 1 + behind;
    if (phase === 0) return Math.abs(this.past[first + TAPS / 2 - 1]!);
    const taps = this.phases[phase]!;
    let y = 0;
    for (let k = 0; k < TAPS; k++) y += taps[k]! * this.past[first + k]!;
    return Math.abs(y);
  }
}

const decibels = (amplitude: number) => (amplitude > 0 ? 20 * Math.log10(amplitude) : undefined);
const mean = (values: readonly number[]) =>
  values.reduce((a, b) => a + b, 0) / Math.max(1, values.length);

export class Meter {
  private readonly hop: number;
  private readonly weights: [Biquad, Biquad][];
  private readonly peaks: TruePeak[];
  /** Powers of the last three seconds, by tenths: weighted, of each side, of both together. */
  private rows: Row[] = [];
  /** Windows of 400 ms and of 3 s since the reset. */
  private readonly blocks = new Spread();
  private readonly windows = new Spread();
  private sums: [number, number, number, number] = [0, 0, 0, 0];
  private count = 0;
  private sample = 0;
  constructor(rate: number) {
    this.hop = Math.floor(rate / HOPS_A_SECOND);
    const [shelf, pass] = kWeighting(rate);
    this.weights = [0, 1].map(() => [new Biquad(shelf), new Biquad(pass)]);
    const phases = interpolator();
    this.peaks = [new TruePeak(phases), new TruePeak(phases)];
  }

  reset() {
    this.rows = [];
    this.blocks.clear();
    this.windows.clear();
    this.sums = [0, 0, 0, 0];
    this.count = 0;
    this.sample = 0;
    for (const peak of this.peaks) peak.top = 0;
  }

  add(left: Float32Array, right: Float32Array) {
    for (let i = 0; i < left.length; i++) this.next(left[i]!, right[i]!);
  }

  /** Values that hold since the reset, and those of the last moments. */
  levels(): Levels {
    const [, l, r, both] = [0, 1, 2, 3].map((k) => this.recent(k, MOMENTARY));
    const shared = Math.sqrt((l ?? 0) * (r ?? 0));
    return {
      momentary: heard(this.recent(0, MOMENTARY)),
      shortTerm: heard(this.recent(0, SHORT_TERM)),
      integrated: this.integrated(),
      range: this.range(),
      truePeak: decibels(Math.max(this.sample, ...this.peaks.map((p) => p.top))),
      samplePeak: decibels(this.sample),
      correlation: shared > 1e-12 ? Math.max(-1, Math.min(1, both! / shared)) : undefined,
    };
  }

  /** Mean over the last tenths; undefined while there are not enough. */
  private recent(column: number, tenths: number): number | undefined {
    if (this.rows.length < tenths) return undefined;
    return mean(this.rows.slice(-tenths).map((row) => row[column]!));
  }

  private next(l: number, r: number) {
    const { sums, weights } = this;
    const kl = weights[0]![1].next(weights[0]![0].next(l));
    const kr = weights[1]![1].next(weights[1]![0].next(r));
    sums[0] += kl * kl + kr * kr;
    sums[1] += l * l;
    sums[2] += r * r;
    sums[3] += l * r;
    this.sample = Math.max(this.sample, Math.abs(l), Math.abs(r));
    this.peaks[0]!.next(l);
    this.peaks[1]!.next(r);
    if (++this.count === this.hop) this.write();
  }

  private write() {
    const [k, l, r, both] = this.sums.map((sum) => sum / this.count);
    this.rows.push([k!, l!, r!, both!]);
    if (this.rows.length > SHORT_TERM) this.rows.shift();
    const [block, window] = [MOMENTARY, SHORT_TERM].map((tenths) => this.recent(0, tenths));
    if (block !== undefined) this.blocks.add(block);
    if (window !== undefined) this.windows.add(window);
    this.sums = [0, 0, 0, 0];
    this.count = 0;
  }

  /** Gated at −70 LUFS and 10 LU below the ungated level. */
  private integrated(): number | undefined {
    const loud = this.blocks.mean();
    const gated = loud === undefined ? undefined : this.blocks.mean(lufs(loud) - 10);
    return gated === undefined ? undefined : lufs(gated);
  }

  /** From the 10th to the 95th of a hundred short-term levels, gated 20 LU below their mean. */
  private range(): number | undefined {
    const loud = this.windows.mean();
    return loud === undefined ? undefined : this.windows.between(0.1, 0.95, lufs(loud) - 20);
  }
}

function heard(power: number | undefined): number | undefined {
  return power !== undefined && power > 1e-10 ? lufs(power) : undefined;
}
