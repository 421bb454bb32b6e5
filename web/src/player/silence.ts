/**
 * How long the sound device has said nothing, counted only while we could have heard it: a page
 * that stood still for two seconds has the device's words still before it.
 */
const MOST_AT_ONCE_MS = 100;

export class Silence {
  private lasted = 0;
  private looked: number | undefined;

  /** The device has said that it goes on. */
  broken() {
    this.lasted = 0;
  }

  /** Called at each frame that is drawn: how long it has lasted by now, in milliseconds. */
  look(now: number): number {
    this.lasted += Math.min(MOST_AT_ONCE_MS, Math.max(0, now - (this.looked ?? now)));
    this.looked = now;
    return this.lasted;
  }
}
