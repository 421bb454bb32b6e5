/**
 * Blocks of sound from the server: fetched ahead of the playhead, kept under their content's key.
 *
 * After a change nothing that is held is known to be right. What is played in the next half second
 * is asked for first, then whole seconds in the order in which they are played; only those whose key
 * has changed travel.
 */
import { sameCommands, type Command, type Sent } from '../reel/draft';
import { UNTREATED, type State } from './against';
import type { Side, ToWorklet } from './messages';
import {
  FAR_AHEAD,
  PIECES,
  edgeOf,
  nameOf,
  partsOf,
  piecesOf,
  upcoming,
  wanted,
  type Ask,
  type Want,
} from './plan';
import { requestSound } from './request';

interface Block {
  key: string;
  /** The state of its side for which the content is known to be right. */
  state: number;
  provisional: boolean;
}

export interface BlockSource {
  reel: string;
  rate: number;
  /** By which the server knows our own page. */
  token: string;
}

const OUTSTANDING = 2;
const KEPT = 90;
const BUSY_MS = 40;
const DOWN_MS = 1000;
/** Seconds of sound that take longer than this are asked for from further ahead. */
const SLOW_MS = 500;
/** How much of what is known of the server's pace the newest answer tells. */
const NEWEST = 0.3;
/** Half of what a part lasts: as many as come in this time are asked for together. */
const IN_TIME_MS = 500 / PIECES;
const NEVER = -1;
/** A hand that has not moved for so long rests: whole seconds of its draft are worth asking for. */
const REST_MS = 400;
/** So much sound lasts until that of a hand which has just begun to move is there. */
const LASTING_SECONDS = 0.6;

export class Blocks {
  private readonly known = new Map<string, Block>();
  private readonly player = crypto.randomUUID();
  private generation = 1;
  private controller = new AbortController();
  private outstanding = 0;
  private timer: ReturnType<typeof setTimeout> | undefined;
  /** After a failure nothing is asked for until then. */
  private notBefore = 0;
  /** Until then the hand moves. */
  private moves = 0;
  private resting: ReturnType<typeof setTimeout> | undefined;
  /** Counts the states of a side: edits, media that become ready, controls that are turned. */
  private readonly state: Record<Side, number> = { treated: 0, other: 0 };
  private revision = 0;
  private length = 0;
  private want: Want | undefined;
  private provisional: readonly Command[] = [];
  /** Edits on their way, upon which that is made. */
  private upon: readonly Sent[] | undefined;
  private against: State = UNTREATED;
  private readonly loading = new Set<string>();
  /** Somebody has just gone there, or begun to play: no whole block has come since. */
  private begins = false;
  /** Parts that are held for this state. */
  private readonly parts = new Set<string>();
  /** Milliseconds in which a part has come last. */
  private pace = Infinity;
  /** Milliseconds in which a whole second has come of late. */
  private took = 0;

  constructor(
    private readonly source: BlockSource,
    private readonly tell: (message: ToWorklet) => void,
    private readonly status: (trouble: string) => void,
    /** What the reel was compared with cannot be heard any more. */
    private readonly gone: (why: string) => void = () => undefined,
  ) {}

  /**
   * The document has moved on: what is held may be out of date.
   *
   * @param drafted What a hand that is still at it has done, and goes on to be heard.
   */
  setRevision(revision: number, length: number, drafted: readonly Command[] = []) {
    const { provisional } = this;
    const goesOn = provisional.length > 0 && sameCommands(provisional, drafted);
    const known = revision === this.revision && (goesOn || !provisional.length);
    this.revision = revision;
    this.length = length;
    if (!goesOn) {
      this.provisional = [];
      this.atOnce();
    }
    if (known) this.pump();
    else this.changed(['treated', 'other']);
  }

  /** What the reel is compared with from here on. */
  setAgainst(against: State) {
    this.against = against;
    this.atOnce();
    this.changed(['other']);
  }

  /** Sound of a draft has been laid over these stretches, unless what was there is right. */
  noteDraft(
    { commands, upon }: { commands: readonly Command[]; upon?: readonly Sent[] | undefined },
    fresh: boolean,
    ranges: [number, number][],
  ) {
    if (fresh) {
      [this.provisional, this.upon] = [commands, upon];
      this.changed(['treated'], false);
    }
    const { rate } = this.source;
    for (const [start, stop] of ranges)
      for (let index = Math.floor(start / rate); index * rate < stop; index++)
        // What is held is no longer what its key says.
        if (!this.ready('treated', index))
          this.keep(`treated/${index}`, { key: '', state: NEVER, provisional: true });
  }

  /**
   * The hand has moved: what takes long is given up, and not asked for again until it rests. What
   * is short is asked for all the same: right after a jump there is little to live on until the
   * hand's own sound has come.
   */
  makeWay() {
    const begins = !this.moving();
    this.moves = performance.now() + REST_MS;
    if (begins && !this.short()) this.leave();
    clearTimeout(this.resting);
    this.resting = setTimeout(() => this.pump(), REST_MS + 1);
  }

  /** The draft is given up: what is committed is heard again. */
  dropDraft() {
    if (!this.provisional.length) return;
    this.provisional = [];
    this.atOnce();
    this.changed(['treated']);
  }

  /** Say where the playhead is; sound from there on is fetched in order. */
  look(want: Want) {
    const before = this.want;
    const grid = this.source.rate;
    this.want = want;
    const [was, is] = [before, want].map((w) => (w ? Math.floor(w.position / grid) : -2));
    const wrapped = want.loop !== undefined && is === Math.floor(want.loop.start / grid);
    const jumped =
      before !== undefined &&
      (before.side !== want.side || ((is! < was! || is! > was! + 1) && !wrapped));
    if (jumped || (want.playing && !before?.playing)) this.begins = true;
    if (jumped) this.restart();
    else this.pump();
  }

  /** Whether a block is held and right as it is. */
  ready(side: Side, index: number): boolean {
    return this.fresh({ side, index, part: undefined });
  }

  close() {
    this.controller.abort();
    clearTimeout(this.timer);
    clearTimeout(this.resting);
    this.want = undefined;
  }

  /** Nothing that was handed on is held any more. */
  forget() {
    this.known.clear();
    this.begins = true;
    this.changed(['treated', 'other']);
  }

  /** @param told Whether the player must hear of it: of a draft it has. */
  private changed(sides: Side[], told = true) {
    for (const side of sides) this.state[side]++;
    this.parts.clear();
    if (told) for (const side of sides) this.tell({ type: 'doubt', side });
    // Beside a moving hand what is heard instead of the draft goes on to be asked for.
    if (this.moving() && this.want?.side !== 'treated') this.pump();
    else this.restart();
  }

  /** What has been asked for is no longer wanted. */
  private restart() {
    this.leave();
    this.pump();
  }

  private leave() {
    this.controller.abort();
    this.controller = new AbortController();
    this.generation++;
    this.outstanding = 0;
    this.loading.clear();
  }

  /** Nothing that was waited for is waited for any longer. */
  private atOnce() {
    this.notBefore = 0;
    this.moves = 0;
  }

  /** Whether what is held of what plays may end before a hand's own sound is there. */
  private short(): boolean {
    const { want, source, length } = this;
    // Of a draft the hand's own questions bring what is heard.
    const own = want?.side === 'treated' && this.provisional.length > 0;
    if (!want?.playing || own) return false;
    const sides: Side[] = want.side === 'difference' ? ['treated', 'other'] : [want.side];
    return piecesOf(want, source.rate, length, LASTING_SECONDS).some(([index, part]) =>
      sides.some((side) => !this.enough({ side, index, part })),
    );
  }

  private moving(): boolean {
    return performance.now() < this.moves;
  }

  /** Of a difference all that is held will do until the hand rests, or it would not go on. */
  private enough(ask: Ask): boolean {
    if (this.want?.side !== 'difference' || !this.moving()) return this.fresh(ask);
    return (this.known.get(`${ask.side}/${ask.index}`)?.key ?? '') !== '';
  }

  private pump() {
    if (!this.want || performance.now() < this.notBefore) return;
    if (this.moving() && !this.short()) return;
    const { want, source, length } = this;
    const provisional = this.provisional.length > 0;
    const most = Math.max(1, Math.min(PIECES, Math.floor(IN_TIME_MS / this.pace)));
    const ahead = this.took > SLOW_MS ? FAR_AHEAD : undefined;
    const fresh = (ask: Ask) =>
      this.enough(ask) || (ask.part !== undefined && this.loading.has(nameOf(ask)));
    const how = { most, ahead, begins: this.begins, took: this.took / 1000 };
    const asks = wanted(want, source.rate, length, provisional, fresh, how);
    // Whole seconds may take long: while what is heard now is not there, pieces of it may be asked
    // for beside one of them at any time.
    const here = upcoming(want, source.rate, length)[0];
    const side = want.side === 'other' ? 'other' : 'treated';
    const urgent = !provisional && here !== undefined && !this.ready(side, here);
    const wholes = urgent ? OUTSTANDING - 1 : OUTSTANDING;
    let whole = [...this.loading].filter((name) => name.split('/').length === 2).length;
    for (const ask of asks) {
      if (this.outstanding >= OUTSTANDING) return;
      if (this.loading.has(nameOf(ask))) continue;
      if (ask.part === undefined && whole >= wholes) continue;
      if (ask.part === undefined) whole++;
      void this.fetch(ask);
    }
  }

  private fresh(ask: Ask): boolean {
    const block = this.known.get(`${ask.side}/${ask.index}`);
    if (block?.state === this.state[ask.side]) return true;
    return ask.part !== undefined && this.parts.has(nameOf(ask));
  }

  private async fetch(ask: Ask) {
    const { side, index, part, parts = 1 } = ask;
    const name = nameOf(ask);
    const names = part === undefined ? [name] : partsOf(ask);
    const asked = performance.now();
    const { generation } = this;
    const state = this.state[side];
    const commands = side === 'treated' ? this.provisional : [];
    const draft = { commands, ...(this.upon && { upon: this.upon }) };
    const held = part === undefined ? this.known.get(name) : undefined;
    for (const one of names) this.loading.add(one);
    this.outstanding++;
    let wait = 0;
    try {
      const body = side === 'other' ? this.against : commands.length ? draft : undefined;
      const response = await requestSound(this.source.reel, ask, {
        body,
        held: held?.key,
        player: this.player,
        generation,
        token: this.source.token,
        signal: this.controller.signal,
      });
      const sound = response.status === 200 ? await response.arrayBuffer() : undefined;
      if (generation !== this.generation) return;
      // What has not changed has come, too.
      if (part === undefined && response.status < 400) {
        this.took += NEWEST * (performance.now() - asked - this.took);
        this.begins = false;
      }
      if (sound) {
        const data = new Float32Array(sound);
        const half = data.length / 2;
        const sides: [Float32Array, Float32Array] = [data.slice(0, half), data.slice(half)];
        if (part === undefined) {
          this.tell({ type: 'block', side, index, sound: sides, exact: !commands.length });
          const key = response.headers.get('ETag')?.replaceAll('"', '') ?? '';
          this.keep(name, { key, state, provisional: commands.length > 0 });
        } else if (!this.ready(side, index)) {
          const exact = response.headers.get('X-Block') === 'exact';
          const start = index * this.source.rate + edgeOf(part, this.source.rate);
          this.tell({ type: 'slice', side, start, sound: sides, exact });
          for (const one of names) this.parts.add(one);
          this.pace = (performance.now() - asked) / parts;
          // What is held is no longer what its key says.
          this.keep(`${side}/${index}`, { key: '', state: NEVER, provisional: true });
        }
        this.status('');
      } else if (response.status === 304 && held && held === this.known.get(name)) {
        this.tell({ type: 'right', side, index, exact: !commands.length });
        this.keep(name, { key: held.key, state, provisional: commands.length > 0 });
        this.status('');
      } else if (response.status === 304) {
        // It has been overlaid meanwhile: it is asked for once more.
      } else if (response.status === 429 || response.status === 409) {
        wait = BUSY_MS;
      } else {
        const said = (await response.json().catch(() => ({}))) as { detail?: string };
        if (side === 'other' && response.status === 422) {
          this.gone(said.detail ?? '');
          return;
        }
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
        for (const one of names) this.loading.delete(one);
        this.outstanding = Math.max(0, this.outstanding - 1);
        clearTimeout(this.timer);
        this.notBefore = performance.now() + wait;
        if (wait) this.timer = setTimeout(() => this.pump(), wait + 1);
        else this.pump();
      }
    }
  }

  private keep(name: string, block: Block) {
    this.known.delete(name);
    this.known.set(name, block);
    while (this.known.size > KEPT) {
      const oldest = this.known.keys().next().value!;
      this.known.delete(oldest);
      const [side, index] = oldest.split('/') as [Side, string];
      this.tell({ type: 'drop', side, index: Number(index) });
    }
  }
}
