/**
 * Tiles of columns, fetched when they are first seen and again when the reel has changed.
 *
 * What was seen before an edit stays until what is new has come; the server says in a word if
 * nothing has changed. A tile that is not known as a whole yet is asked for again: it goes on.
 */
import { refusal } from '../../api/client';
import { COLUMNS } from './steps';

/** No value, such as the pitch of a rustle. */
export const MISSING = -32768;
const AT_ONCE = 4;
const MOST = 400;
/** What was not looked at for so long is not asked for any more. */
const SEEN_MS = 400;
const RETRY_MS = 1500;

export interface Wanted {
  reel: string;
  of: string;
  side: 'after' | 'before';
  kind: string;
  axis: string;
  sharp: string;
  step: number;
}

export interface Tile {
  /** Whole numbers, column after column. */
  values: Int16Array;
  /** How much of it is known. */
  share: number;
}

interface Held {
  tile: Tile | undefined;
  etag: string;
  /** The revision it was asked for last, if it has come. */
  revision: number;
  loading: boolean;
  seen: number;
  notBefore: number;
  wanted: Wanted;
  index: number;
  want: number;
}

export class Tiles {
  private readonly held = new Map<string, Held>();
  private readonly listeners = new Set<() => void>();
  private under = 0;
  private readonly failed = new Map<string, string>();

  constructor(
    private readonly ask: typeof fetch = (...a) => fetch(...a),
    private readonly now: () => number = () => performance.now(),
  ) {}

  /** A tile as far as it is here; what is missing or out of date is fetched. */
  get(wanted: Wanted, index: number, revision: number): Tile | undefined {
    const name = nameOf(wanted, index);
    let held = this.held.get(name);
    if (held) {
      // Those that were looked at last stay longest.
      this.held.delete(name);
    } else {
      held = {
        tile: undefined,
        etag: '',
        revision: -1,
        loading: false,
        seen: 0,
        notBefore: 0,
        wanted,
        index,
        want: revision,
      };
    }
    this.held.set(name, held);
    held.seen = this.now();
    held.want = revision;
    if (needed(held) && !held.loading) this.pump();
    return held.tile;
  }

  /** Whether a tile is here as a whole and as it is. */
  ready(wanted: Wanted, index: number, revision: number): boolean {
    const held = this.held.get(nameOf(wanted, index));
    return held !== undefined && held.revision >= revision;
  }

  /** How much of a tile is here as it is, from 0 to 1. */
  share(wanted: Wanted, index: number, revision: number): number {
    if (this.ready(wanted, index, revision)) return 1;
    const share = this.held.get(nameOf(wanted, index))?.tile?.share ?? 0;
    // What is here as a whole is of before the last edit.
    return share < 1 ? share : 0;
  }

  /** Why what was asked for last of a place cannot be had. */
  why({ of, kind }: Pick<Wanted, 'of' | 'kind'>): string {
    return this.failed.get(`${of} ${kind}`) ?? '';
  }

  subscribe(listener: () => void): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  private pump() {
    const since = this.now() - SEEN_MS;
    const waiting = [...this.held.values()].filter(
      (h) => !h.loading && needed(h) && h.seen >= since && h.notBefore <= this.now(),
    );
    // What is looked at now comes before what was passed by.
    waiting.sort((a, b) => b.seen - a.seen);
    for (const held of waiting.slice(0, AT_ONCE - this.under)) void this.fetch(held);
    for (const [name, held] of this.held) {
      if (this.held.size <= MOST) break;
      if (!held.loading) this.held.delete(name);
    }
  }

  private async fetch(held: Held) {
    held.loading = true;
    this.under++;
    const revision = held.want;
    const { reel, ...query } = held.wanted;
    const text = new URLSearchParams(
      Object.entries({ ...query, index: held.index }).map(([k, v]) => [k, String(v)]),
    );
    try {
      const answer = await this.ask(`/api/reels/${reel}/analysis/tile?${text}`, {
        headers: held.etag ? { 'If-None-Match': held.etag } : {},
      });
      if (answer.status !== 304) {
        if (!answer.ok) throw refusal(await answer.json().catch(() => undefined), answer.status);
        const values = new Int16Array(await answer.arrayBuffer());
        const share = Number(answer.headers.get('X-Share') ?? 1);
        const known = held.tile;
        // What was there before an edit is better than nothing beside what has come.
        if (share < 1 && known?.share === 1) fill(values, known.values);
        held.tile = { values, share };
        held.etag = answer.headers.get('ETag') ?? '';
      }
      held.revision = held.tile && held.tile.share < 1 ? -1 : revision;
      this.failed.delete(`${query.of} ${query.kind}`);
    } catch (error) {
      held.notBefore = this.now() + RETRY_MS;
      this.failed.set(
        `${query.of} ${query.kind}`,
        error instanceof Error ? error.message : String(error),
      );
      // Whoever still looks there asks again by drawing it again.
      setTimeout(() => this.tell(), RETRY_MS);
    }
    held.loading = false;
    this.under--;
    this.pump();
    this.tell();
  }

  private tell() {
    for (const listener of this.listeners) listener();
  }
}

const nameOf = (wanted: Wanted, index: number) => `${Object.values(wanted).join(' ')} ${index}`;

const needed = (h: Held) => h.revision < h.want;

/** Columns that have not come yet, as they were. */
function fill(values: Int16Array, before: Int16Array) {
  const rows = values.length / COLUMNS;
  for (let at = values.length - rows; at >= 0; at -= rows) {
    if (values[at] !== MISSING) return;
    values.set(before.subarray(at, at + rows), at);
  }
}

export const tiles = new Tiles();

/** Columns of one side over a stretch. */
export interface Strip {
  /** Samples of a column. */
  each: number;
  rows: number;
  /** By how much values are multiplied. */
  fraction: number;
  tile: (index: number) => Tile | undefined;
  /** How much of a tile is here as it is, from 0 to 1. */
  share: (index: number) => number;
}

/** The column that a sample lies in. */
export function columnAt(strip: Strip, sample: number): Int16Array | undefined {
  const place = Math.floor(sample / strip.each);
  if (place < 0) return undefined;
  const tile = strip.tile(Math.floor(place / COLUMNS));
  if (!tile) return undefined;
  const at = (place % COLUMNS) * strip.rows;
  return tile.values.subarray(at, at + strip.rows);
}

/** One value of a column, or none. */
export function valueOf(strip: Strip, column: Int16Array | undefined, row: number) {
  const value = column?.[row];
  return value === undefined || value === MISSING ? undefined : value / strip.fraction;
}
