/**
 * Listening at another speed with the pitch held: for finding a moment, never for the result.
 *
 * Overlap-add with a search for the best joint (Verhelst & Roelands, "An overlap-add technique
 * based on waveform similarity", ICASSP 1993), on whatever samples can be read.
 */
export type Reader = (position: number) => [number, number] | undefined;

const HOP_SECONDS = 0.02;
const REACH_SECONDS = 0.009;
const COARSE = 4;

export class Stretcher {
  private readonly hop: number;
  private readonly reach: number;
  private readonly fade: Float32Array;
  /** The second half of the last grain, fading out. */
  private tail: [Float32Array, Float32Array];
  private joint: number | undefined;

  constructor(sampleRate: number) {
    this.hop = Math.round(HOP_SECONDS * sampleRate);
    this.reach = Math.round(REACH_SECONDS * sampleRate);
    this.fade = Float32Array.from(
      { length: this.hop },
      (_, i) => 0.5 - 0.5 * Math.cos((Math.PI * (i + 0.5)) / this.hop),
    );
    this.tail = [new Float32Array(this.hop), new Float32Array(this.hop)];
  }

  /** How far it looks ahead of a position. */
  get span(): number {
    return 2 * this.hop + this.reach;
  }

  /** How far it looks back, unless it has just begun. */
  get back(): number {
    return this.joint === undefined ? 0 : this.reach;
  }

  /** Forget what came before: after a jump. */
  reset() {
    this.joint = undefined;
    this.tail[0].fill(0);
    this.tail[1].fill(0);
  }

  /** Samples of one hop of output around a position; undefined if they are not there yet. */
  next(position: number, read: Reader): [Float32Array, Float32Array] | undefined {
    const { hop, fade } = this;
    if (!read(position) || !read(position + this.span)) return undefined;
    const start = this.joint === undefined ? position : this.best(position, this.joint, read);
    const out: [Float32Array, Float32Array] = [new Float32Array(hop), new Float32Array(hop)];
    for (let i = 0; i < hop; i++) {
      const now = read(start + i) ?? [0, 0];
      const later = read(start + hop + i) ?? [0, 0];
      for (const side of [0, 1] as const) {
        out[side][i] = this.tail[side][i]! + fade[i]! * now[side];
        this.tail[side][i] = (1 - fade[i]!) * later[side];
      }
    }
    this.joint = start + hop;
    return out;
  }

  /** The place near a position whose sound goes on best from the last grain. */
  private best(position: number, joint: number, read: Reader): number {
    const wanted: number[] = [];
    for (let i = 0; i < this.hop; i += COARSE) {
      const [l, r] = read(joint + i) ?? [0, 0];
      wanted.push(l + r);
    }
    let most = -Infinity;
    let where = position;
    for (let d = -this.reach; d <= this.reach; d += COARSE) {
      let product = 0;
      let power = 1e-9;
      for (let k = 0; k < wanted.length; k++) {
        const [l, r] = read(position + d + k * COARSE) ?? [0, 0];
        product += wanted[k]! * (l + r);
        power += (l + r) * (l + r);
      }
      const likeness = product / Math.sqrt(power);
      if (likeness > most) {
        most = likeness;
        where = position + d;
      }
    }
    return Math.max(0, where);
  }
}
