/**
 * Sound before the record: what a hand has let go of goes to the server as an edit once its sound is
 * there. Both at once would take the time from each other.
 */
import type { Command } from '../reel/draft';

/** Sound that takes longer is not waited for. */
const LONGEST_MS = 150;

export class HeardFirst {
  private last = '';
  private waiting: { draft: string; go: () => void } | undefined;

  /** Sound of a draft has been handed to the player. */
  heard(serial: number, commands: readonly Command[]) {
    this.last = named(serial, commands);
    if (this.waiting?.draft === this.last) this.waiting.go();
  }

  /** Resolves once a draft has been heard, or when that takes long. */
  async wait(serial: number, commands: readonly Command[]): Promise<void> {
    const draft = named(serial, commands);
    this.waiting?.go();
    if (draft === this.last) return;
    await new Promise<void>((resolve) => {
      const timer = setTimeout(resolve, LONGEST_MS);
      this.waiting = {
        draft,
        go: () => {
          clearTimeout(timer);
          resolve();
        },
      };
    });
  }
}

function named(serial: number, commands: readonly Command[]): string {
  return JSON.stringify([serial, commands]);
}
