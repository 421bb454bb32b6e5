/** Prepared parts of media, fetched once each; what cannot be had is asked for again, but not often. */

/** After the first failure, and at most, until it is asked for again. */
export const RETRY_MS = 1000;
const LONGEST_RETRY_MS = 30_000;

interface Held<T> {
  value: T | undefined;
  loading: boolean;
  failures: number;
  /** Not asked for before then. */
  notBefore: number;
  /** Whom to tell when it has come, or when it may be asked for again. */
  waiting: Set<() => void>;
}

export class Parts<T> {
  private readonly held = new Map<string, Held<T>>();

  /** `most` are kept, those that were asked for first go first. */
  constructor(
    private readonly read: (data: ArrayBuffer) => T,
    private readonly most = Infinity,
  ) {}

  /** A part if it is here; else it is fetched and `arrived` is called. */
  get(name: string, arrived: () => void): T | undefined {
    let entry = this.held.get(name);
    if (!entry) {
      entry = {
        value: undefined,
        loading: false,
        failures: 0,
        notBefore: 0,
        waiting: new Set(),
      };
      this.held.set(name, entry);
      this.makeRoom();
    }
    if (entry.value !== undefined) return entry.value;
    entry.waiting.add(arrived);
    if (!entry.loading && performance.now() >= entry.notBefore) void this.fetch(name, entry);
    return undefined;
  }

  private async fetch(name: string, entry: Held<T>) {
    entry.loading = true;
    const tell = () => {
      const told = [...entry.waiting];
      entry.waiting.clear();
      for (const arrived of told) arrived();
    };
    try {
      const response = await fetch(`/api/media/${name}`);
      if (!response.ok) throw new Error(String(response.status));
      entry.value = this.read(await response.arrayBuffer());
      entry.loading = false;
      tell();
    } catch {
      const wait = Math.min(LONGEST_RETRY_MS, RETRY_MS * 2 ** entry.failures++);
      entry.loading = false;
      entry.notBefore = performance.now() + wait;
      setTimeout(tell, wait + 1);
    }
  }

  private makeRoom() {
    for (const [name, old] of this.held) {
      if (this.held.size <= this.most) return;
      if (!old.loading) this.held.delete(name);
    }
  }
}
