/**
 * Supplies the output with sound, beside the page: what is drawn does not hold up what is heard.
 *
 * Whatever the page says to the output passes through here, so that all of it stays in order.
 */
import type { Command } from '../reel/draft';
import type { State } from './against';
import { Blocks, type BlockSource } from './blocks';
import type { Report, ToWorklet } from './messages';
import type { Want } from './plan';

/** What the page tells it. */
export type ToSupply =
  | ({ type: 'open' } & BlockSource)
  /** By which the server knows our own page. */
  | { type: 'token'; token: string }
  /** Comes with a port to the output, which has nothing yet. */
  | { type: 'output' }
  /** Nothing that was handed to the output is held any more. */
  | { type: 'lost' }
  | { type: 'say'; message: ToWorklet }
  /** The document has moved on: the reel has so many samples, and what a hand still does to it. */
  | { type: 'revision'; revision: number; length: number; drafted: readonly Command[] }
  /** What the reel is compared with from here on. */
  | { type: 'against'; state: State }
  /** The draft is given up: what is committed is heard again. */
  | { type: 'given-up' }
  | { type: 'look'; want: Want };

/** What it tells the page. */
export type FromSupply =
  | { type: 'trouble'; trouble: string }
  /** What the reel was compared with cannot be heard any more. */
  | { type: 'gone' };

export class Supply {
  private readonly blocks: Blocks;
  private readonly source: BlockSource;
  private port: MessagePort | undefined;
  private waiting: ToWorklet[] = [];
  private wanted: Want | undefined;
  private jumps = 0;
  private serial = 0;

  /**
   * @param reported Called when the output says where it is.
   * @param looked Called when the page says what is to be heard.
   */
  constructor(
    source: BlockSource,
    toPage: (message: FromSupply) => void,
    private readonly reported: (report: Report) => void,
    private readonly looked: (want: Want) => void,
  ) {
    let said = '';
    this.source = { ...source };
    this.blocks = new Blocks(
      this.source,
      (message) => this.say(message),
      (trouble) => {
        if (trouble !== said) toPage({ type: 'trouble', trouble });
        said = trouble;
      },
      () => toPage({ type: 'gone' }),
    );
  }

  receive(m: Exclude<ToSupply, { type: 'open' }>, port?: MessagePort) {
    switch (m.type) {
      case 'token':
        this.source.token = m.token;
        return;
      case 'output':
        this.join(port!);
        return;
      case 'lost':
        this.port = undefined;
        this.blocks.forget();
        return;
      case 'say':
        this.say(m.message);
        return;
      case 'revision':
        this.blocks.setRevision(m.revision, m.length, m.drafted);
        return;
      case 'against':
        this.blocks.setAgainst(m.state);
        return;
      case 'given-up':
        this.blocks.dropDraft();
        return;
      case 'look':
        this.look(m.want);
    }
  }

  /** Which draft may be heard; 0 for none. */
  get hand(): number {
    return this.serial;
  }

  /** What is to be heard. */
  get want(): Want | undefined {
    return this.wanted;
  }

  /** A hand is moving: nothing that takes long is asked for beside it. */
  makeWay() {
    this.blocks.makeWay();
  }

  /** Sound of a draft has been handed to the output. */
  noteDraft(...draft: Parameters<Blocks['noteDraft']>) {
    this.blocks.noteDraft(...draft);
  }

  /** Say something to the output; before the first gesture there is none, it hears of it then. */
  say(message: ToWorklet) {
    if (message.type === 'hand') this.serial = message.serial;
    if (message.type === 'jump') this.jumps = message.count;
    if (this.port) this.port.postMessage(message);
    else this.waiting.push(message);
  }

  private join(port: MessagePort) {
    this.port = port;
    port.onmessage = (e: MessageEvent<Report>) => this.report(e.data);
    const { waiting } = this;
    this.waiting = [];
    this.say({ type: 'hand', serial: this.serial });
    for (const message of waiting) this.say(message);
  }

  private report(report: Report) {
    // From before a jump it tells where nobody is any more.
    if (report.jumps !== this.jumps) return;
    this.reported(report);
    if (this.wanted && report.playing) this.look({ ...this.wanted, position: report.position });
  }

  private look(want: Want) {
    this.wanted = want;
    this.looked(want);
    this.blocks.look(want);
  }
}
