/**
 * Samples, frames and timecode for drawing and reading. All in exact integers; the same rules as
 * the server's clock, against whose values the tests check these.
 */

export interface Clock {
  /** Samples a second. */
  readonly sampleRate: number;
  /** Frames a second, rounded up to what timecode counts. */
  readonly nominal: number;
  readonly framesPerSecond: number;
  sampleOfFrame(frame: number): number;
  frameOfSample(sample: number): number;
  timecodeOfFrame(frame: number): string;
  timecode(sample: number): string;
  /** The sample a timecode names, or undefined if the text is none. */
  parse(text: string): number | undefined;
}

export function makeClock(
  frameRate: string,
  sampleRate: number,
  dropFrame = false,
  startTimecode = '00:00:00:00',
): Clock {
  const [num = 25, den = 1] = frameRate.split('/').map(Number);
  const n = BigInt(num);
  const up = BigInt(sampleRate) * BigInt(den);
  const nominal = Math.ceil(num / den);
  const dropped = dropFrame ? Math.floor(nominal / 15) : 0;
  const framesIn = (minutes: number) =>
    minutes * 60 * nominal - dropped * (minutes - Math.floor(minutes / 10));
  const separator = dropFrame ? ';' : ':';

  const sampleOfFrame = (frame: number) => Number(divideUp(BigInt(frame) * up, n));
  const frameOfSample = (sample: number) => Number(divideDown(BigInt(Math.floor(sample)) * n, up));

  const frameOfTimecode = (text: string): number | undefined => {
    const found = /^(\d{1,3}):([0-5]\d):([0-5]\d)[:;](\d{2,3})$/.exec(text.trim());
    if (!found) return undefined;
    const [hours, minutes, seconds, frames] = found.slice(1).map(Number) as [
      number,
      number,
      number,
      number,
    ];
    if (frames >= nominal) return undefined;
    const total = hours * 60 + minutes;
    return (total * 60 + seconds) * nominal + frames - dropped * (total - Math.floor(total / 10));
  };
  const offset = frameOfTimecode(startTimecode) ?? 0;

  const timecodeOfFrame = (frame: number) => {
    let count = (frame + offset) % framesIn(24 * 60);
    if (dropped) {
      const tens = Math.floor(count / framesIn(10));
      const rest = count % framesIn(10);
      const minute = nominal * 60;
      count += 9 * dropped * tens;
      if (rest >= minute) count += dropped * (1 + Math.floor((rest - minute) / (minute - dropped)));
    }
    const frames = count % nominal;
    const seconds = Math.floor(count / nominal);
    const two = (x: number) => String(x).padStart(2, '0');
    return `${two(Math.floor(seconds / 3600))}:${two(Math.floor(seconds / 60) % 60)}:${two(seconds % 60)}${separator}${two(frames)}`;
  };

  return {
    sampleRate,
    nominal,
    framesPerSecond: num / den,
    sampleOfFrame,
    frameOfSample,
    timecodeOfFrame,
    timecode: (sample) => timecodeOfFrame(frameOfSample(Math.max(0, sample))),
    parse: (text) => {
      const frame = frameOfTimecode(text);
      return frame === undefined || frame < offset ? undefined : sampleOfFrame(frame - offset);
    },
  };
}

function divideDown(a: bigint, b: bigint): bigint {
  const q = a / b;
  return a % b !== 0n && a < 0n !== b < 0n ? q - 1n : q;
}

function divideUp(a: bigint, b: bigint): bigint {
  return -divideDown(-a, b);
}

/** A length in seconds and frames: "20 s 00 f". */
export function lengthText(clock: Clock, samples: number): string {
  const frames = clock.frameOfSample(samples);
  const rest = String(frames % clock.nominal).padStart(2, '0');
  return `${Math.floor(frames / clock.nominal)} s ${rest} f`;
}
