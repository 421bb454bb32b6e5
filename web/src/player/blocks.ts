/**
 * Blocks of sound from the server: fetched ahead of the playhead, kept under their content's key.
 *
 * After an edit every block must be asked for again, but only those whose key has changed travel.
 */
import { csrfToken } from '../api/client';
import type { Command } from '../reel/session';
import type { Side } from './messages';

export interface Block {
  key: string;
  /** The document revision for which the content is known to be right. */
  revision: number;
  provisional: boolean;
}

export interface BlockSource {
  reel: string;
  rate: number;
}

type Deliver = (side: Side, index: number, sound: [Float32Array, Float32Array]) => void;

const OUTSTANDING = 2;
const AHEAD = 4;
const KEPT = 90;
const BUSY_MS = 40;
const DOWN_MS = 1000;

export class Blocks {
  private readonly known = new Map<string, Block>();
  private readonly player = crypto.randomUUID();
  private generation = 1;
  private controller = new AbortController();
  private outstanding = 0;
  private timer: ReturnType<typeof setTimeout> | undefined;
  /** After a failure nothing is asked for until then. */
  private notBefore = 0;
  private revision = 0;
  private length = 0;
  private want: { side: Side; index: number; ahead: number; other: boolean } | undefined;
  private provisional: Command[] = [];
  private readonly loading = new Set<string>();
  /** Keys of blocks fetched with the provisional edits of this generation. */
  private readonly tags = new Map<number, string>();

  constructor(
    private readonly source: BlockSource,
    private readonly deliver: Deliver,
    private readonly drop: (side: Side, index: number) => void,
    private readonly status: (trouble: string) => void,
  ) {}

  /** The document has moved on: what is held may be out of date. */
  setRevision(revision: number, length: number) {
    this.revision = revision;
    this.length = length;
    this.provisional = [];
    this.pump();
  }

  /** Sound with these edits, though they are not committed; an empty list ends that. */
  setProvisional(commands: Command[]) {
    this.provisional = commands;
    this.restart();
  }

  /** Say where the playhead is; blocks from there on are fetched in order. */
  look(side: Side, position: number, playing: boolean) {
    const index = Math.floor(position / this.source.rate);
    const moved = !this.want || this.want.index !== index || this.want.side !== side;
    const jumped =
      this.want &&
      (index < this.want.index || index > this.want.index + 1 || this.want.side !== side);
    this.want = { side, index, ahead: playing ? AHEAD : 1, other: true };
    if (jumped) this.restart();
    else if (moved || playing) this.pump();
  }

  /** Whether a block is held and right for the newest revision. */
  ready(side: Side, index: number): boolean {
    const block = this.known.get(`${side}/${index}`);
    return block !== undefined && block.revision === this.revision && !block.provisional;
  }

  close() {
    this.controller.abort();
    clearTimeout(this.timer);
    this.want = undefined;
  }

  private restart() {
    this.controller.abort();
    this.controller = new AbortController();
    this.generation++;
    this.outstanding = 0;
    this.loading.clear();
    this.tags.clear();
    this.pump();
  }

  private candidates(): [Side, number][] {
    if (!this.want) return [];
    const { side, index, ahead, other } = this.want;
    const last = Math.ceil(this.length / this.source.rate) - 1;
    const list: [Side, number][] = [];
    for (let i = index; i <= Math.min(last, index + ahead); i++) list.push([side, i]);
    if (other && !this.provisional.length) {
      const opposite: Side = side === 'treated' ? 'untreated' : 'treated';
      for (let i = index; i <= Math.min(last, index + 1); i++) list.push([opposite, i]);
    }
    return list;
  }

  private pump() {
    if (performance.now() < this.notBefore) return;
    while (this.outstanding < OUTSTANDING) {
      const next = this.candidates().find(
        ([side, index]) => !this.fresh(side, index) && !this.loading.has(`${side}/${index}`),
      );
      if (!next) return;
      void this.fetch(...next);
    }
  }

  private fresh(side: Side, index: number): boolean {
    const block = this.known.get(`${side}/${index}`);
    if (!block || block.revision !== this.revision) return false;
    if (side === 'untreated') return true;
    return this.provisional.length ? block.key === this.tags.get(index) : !block.provisional;
  }

  private async fetch(side: Side, index: number) {
    const name = `${side}/${index}`;
    const generation = this.generation;
    const revision = this.revision;
    const commands = side === 'treated' ? this.provisional : [];
    const held = this.known.get(name);
    this.loading.add(name);
    this.outstanding++;
    let wait = 0;
    try {
      const query = `player=${this.player}&generation=${generation}`;
      const response = await fetch(
        `/api/reels/${this.source.reel}/sound/${side}/${index}?${query}`,
        {
          method: commands.length ? 'POST' : 'GET',
          signal: this.controller.signal,
          cache: 'no-store',
          headers: {
            ...(held ? { 'If-None-Match': `"${held.key}"` } : {}),
            ...(commands.length
              ? { 'X-CSRFToken': csrfToken(), 'Content-Type': 'application/json' }
              : {}),
          },
          ...(commands.length ? { body: JSON.stringify(commands) } : {}),
        },
      );
      if (response.status === 200) {
        const key = response.headers.get('ETag')?.replaceAll('"', '') ?? '';
        const data = new Float32Array(await response.arrayBuffer());
        if (generation === this.generation) {
          const samples = data.length / 2;
          this.deliver(side, index, [data.slice(0, samples), data.slice(samples)]);
          this.keep(name, key, revision, commands.length > 0);
          if (commands.length) this.tags.set(index, key);
        }
        this.status('');
      } else if (response.status === 304 && held) {
        if (generation === this.generation) {
          this.keep(name, held.key, revision, commands.length > 0);
          if (commands.length) this.tags.set(index, held.key);
        }
        this.status('');
      } else if (response.status === 429 || response.status === 409) {
        wait = BUSY_MS;
      } else {
        const said = (await response.json().catch(() => ({}))) as { detail?: string };
        this.status(said.detail ?? `The server answered ${response.status}.`);
        wait = DOWN_MS;
      }
    } catch {
      if (generation === this.generation) {
        this.status('The server does not answer; trying again.');
        wait = DOWN_MS;
      }
    } finally {
      // A restart has already forgotten what belonged to older generations.
      if (generation === this.generation) {
        this.loading.delete(name);
        this.outstanding = Math.max(0, this.outstanding - 1);
        clearTimeout(this.timer);
        this.notBefore = performance.now() + wait;
        if (wait) this.timer = setTimeout(() => this.pump(), wait + 1);
        else this.pump();
      }
    }
  }

  private keep(name: string, key: string, revision: number, provisional: boolean) {
    this.known.delete(name);
    this.known.set(name, { key, revision, provisional });
    while (this.known.size > KEPT) {
      const oldest = this.known.keys().next().value!;
      this.known.delete(oldest);
      const [side, index] = oldest.split('/') as [Side, string];
      this.drop(side, Number(index));
    }
  }
}
