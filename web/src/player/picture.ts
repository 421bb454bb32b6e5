/**
 * Keeps the picture with the sound: by rate while playing, by seeking when far off or paused.
 */
import type { Clock } from '../time/clock';

const DEAD_BAND = 0.003;
const FAR = 0.15;
const PULL = 1.5;
const MOST_PULL = 0.08;
/** After a jump the picture may be some frames off: it hurries, since nobody hears it. */
const HURRY = 0.4;
const HURRY_FROM = 0.03;
/** So many frames in a row show that it really is off, and that the clocks did not merely stumble. */
const AGREEING = 3;
/** A seek takes about this long: aim ahead. */
const SEEK_SECONDS = 0.05;
const WINDOW = 7;

export interface PictureTarget {
  /** Seconds of the file at which its first frame of this reel is shown. */
  offset: number;
  clock: Clock;
}

/** The middle of a frame, where a seek surely shows it. */
export function frameTime(target: PictureTarget, sample: number): number {
  const frame = target.clock.frameOfSample(Math.max(0, sample));
  return target.offset + (frame + 0.5) / target.clock.framesPerSecond;
}

export class PictureFollower {
  private errors: number[] = [];
  private handle = 0;
  private settling = 0;

  constructor(
    private readonly video: HTMLVideoElement,
    private readonly target: () => PictureTarget,
    /** The sample heard now, and whether sound is running. */
    private readonly heard: () => { sample: number; running: boolean; speed: number },
  ) {
    const presented = (_: number, frame: VideoFrameCallbackMetadata) => {
      this.follow(frame);
      this.handle = this.video.requestVideoFrameCallback(presented);
    };
    this.handle = this.video.requestVideoFrameCallback(presented);
  }

  /** Show the frame at a sample, standing still. */
  show(sample: number) {
    const time = frameTime(this.target(), sample);
    if (!this.video.paused) this.video.pause();
    if (Math.abs(this.video.currentTime - time) > 0.25 / this.target().clock.framesPerSecond)
      this.video.currentTime = time;
  }

  /** Start moving from a sample. */
  run(sample: number) {
    this.errors = [];
    const wanted = this.target().offset + sample / this.target().clock.sampleRate;
    // When it starts from where it stands, no seek is needed.
    if (Math.abs(this.video.currentTime - wanted) > 1 / this.target().clock.framesPerSecond)
      this.video.currentTime = wanted + SEEK_SECONDS * this.heard().speed;
    this.video.playbackRate = this.heard().speed;
    this.settling = performance.now() + 250;
    void this.video.play().catch(() => undefined);
  }

  close() {
    this.video.cancelVideoFrameCallback(this.handle);
  }

  private follow(frame: VideoFrameCallbackMetadata) {
    const { sample, running, speed } = this.heard();
    if (!running || this.video.seeking) return;
    const { clock, offset } = this.target();
    // The frame comes to the screen at expectedDisplayTime: compare with what is heard then.
    // On a busy machine this runs late, even after that moment: it is measured from now on.
    const ahead = between(-0.1, (frame.expectedDisplayTime - performance.now()) / 1000, 0.05);
    const sound = sample / clock.sampleRate + ahead * speed;
    const error = frame.mediaTime - offset - sound;
    if (Math.abs(error) > FAR && performance.now() > this.settling) {
      this.errors = [];
      this.settling = performance.now() + 250;
      this.video.currentTime = offset + sound + SEEK_SECONDS * speed;
      return;
    }
    this.errors.push(error);
    if (this.errors.length > WINDOW) this.errors.shift();
    this.video.playbackRate = speed * (1 - this.pull());
  }

  /** By how much to slow down, from the last errors in seconds. */
  private pull(): number {
    const last = this.errors.slice(-AGREEING);
    const off = median(last);
    if (last.length === AGREEING && last.every((e) => Math.abs(e) > HURRY_FROM && e * off > 0)) {
      this.errors = last;
      return between(-HURRY, 4 * off, HURRY);
    }
    const middle = median(this.errors);
    return Math.abs(middle) < DEAD_BAND ? 0 : between(-MOST_PULL, PULL * middle, MOST_PULL);
  }
}

function median(values: readonly number[]): number {
  return [...values].sort((a, b) => a - b)[values.length >> 1] ?? 0;
}

function between(least: number, value: number, most: number): number {
  return Math.max(least, Math.min(most, value));
}
