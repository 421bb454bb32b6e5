/**
 * The transport. The sound card's clock leads: the worklet plays samples and says which, and the
 * picture follows.
 */
import { create } from 'zustand';
import { csrfToken } from '../api/client';
import type { Command } from '../reel/draft';
import type { Levels } from './meter';
import type { Band, Part } from './monitor';
import { startSound, type Output } from './output';
import { Silence } from './silence';
import { WITHOUT_ALL, type Against } from './against';
import type { Heard, Report, ToWorklet } from './messages';
import type { FromSupply, ToSupply } from './supply';

interface PlayerState {
  playing: boolean;
  starving: boolean;
  /** Sample at the playhead; while playing it is refreshed for drawing at each frame. */
  position: number;
  side: Heard;
  against: Against;
  /** What of the sound is let through; exports always hold all of it. */
  part: Part;
  /** The band that is let through if that is what is chosen. */
  band: Band;
  /** What is added to the other side so that both are equally loud, in dB. */
  match: number;
  loop: { start: number; end: number } | undefined;
  /** How fast it plays; the pitch is held. */
  speed: number;
  volume: number;
  /** Milliseconds by which the headphones are late (wireless ones often are). */
  delay: number;
  /** Largest values of each side in the last tenth of a second. */
  peaks: [number, number];
  /** What the meters say since they were reset; what plays is measured. */
  levels: Levels | undefined;
  /** Places at which full scale was passed, a tenth of a second apart at least. */
  overs: number[];
  trouble: string;
  /** Why nothing can be heard at all, and what would help. */
  mute: string;
  /** Counts the jumps of the playhead, so that the picture can jump as well. */
  jumps: number;
}

const MOST_OVERS = 200;
const VOLUME_KEY = 'bathyphon.volume';
const DELAY_KEY = 'bathyphon.headphone-delay';
const NOT_LOADED = 'The player could not be loaded.';
/** Without a word from the worklet for so long, it does not run. */
const SILENT_MS = 1500;

function stored(key: string, otherwise: number): number {
  const value = Number(localStorage.getItem(key) ?? otherwise);
  return Number.isFinite(value) ? value : otherwise;
}

export const usePlayer = create<PlayerState>()(() => ({
  playing: false,
  starving: false,
  position: 0,
  side: 'treated',
  against: WITHOUT_ALL,
  part: 'all',
  band: [200, 2000],
  match: 0,
  loop: undefined,
  speed: 1,
  volume: stored(VOLUME_KEY, 1),
  delay: stored(DELAY_KEY, 0),
  peaks: [0, 0],
  levels: undefined,
  overs: [],
  trouble: '',
  mute: '',
  jumps: 0,
}));

export class Player {
  private output: Output | undefined;
  private starting: Promise<Output | undefined> | undefined;
  private token = '';
  private last: Report | undefined;
  /** Of each side, since the meters were drawn. */
  private loudest: [number, number] = [0, 0];
  private stopAt: number | undefined;
  private animation = 0;
  private length = 0;
  private closed = false;
  /** Without it only a page that is loaded again can play. */
  supplied = true;
  private readonly silence = new Silence();
  private jumps = 0;
  /** Counted up with each wish to play or to stop: the last one counts. */
  private wanted = 0;

  /** @param supply The worker in which what is heard is asked for: `supply.worker.ts`. */
  constructor(
    reel: string,
    private readonly rate: number,
    readonly supply: Worker,
  ) {
    usePlayer.setState({
      playing: false,
      position: 0,
      loop: undefined,
      side: 'treated',
      against: WITHOUT_ALL,
      part: 'all',
      match: 0,
      levels: undefined,
      overs: [],
      speed: 1,
      trouble: '',
      mute: '',
    });
    supply.addEventListener('message', ({ data }: MessageEvent<FromSupply>) => {
      if (data.type === 'trouble') usePlayer.setState({ trouble: data.trouble });
      if (data.type !== 'gone') return;
      // An effect that has been removed, say: what is left to compare with is no effect at all.
      this.setAgainst(WITHOUT_ALL);
      this.setSide('treated');
    });
    supply.addEventListener('error', (e) => {
      // A fault in it is another kind of event, and what is asked next may go well.
      if (e instanceof ErrorEvent) return;
      this.supplied = false;
      this.silenced(NOT_LOADED);
    });
    this.token = csrfToken();
    this.tell({ type: 'open', reel, rate, token: this.token });
    const draw = () => {
      this.animation = requestAnimationFrame(draw);
      const silent = this.silence.look(performance.now());
      const state = usePlayer.getState();
      if (!state.playing) return;
      if (silent > SILENT_MS) {
        this.silenced('The sound device does not take any sound.');
        return;
      }
      const position = this.heard();
      if (position !== state.position) usePlayer.setState({ position });
      if (this.stopAt !== undefined && position >= this.stopAt) this.pause();
    };
    this.animation = requestAnimationFrame(draw);
    this.look(0);
  }

  /** The document has a new revision and the reel this many samples; a hand may still be at it. */
  setRevision(revision: number, length: number, drafted: readonly Command[] = []) {
    this.length = length;
    this.send({ type: 'length', samples: length });
    this.tell({ type: 'revision', revision, length, drafted });
    // What has been cut away takes a playhead that stood in it along.
    const { playing, position } = usePlayer.getState();
    if (!playing && length > 0 && position > length) this.seek(length);
  }

  /** Which draft may be heard; 0 for none. */
  letHand(serial: number) {
    this.send({ type: 'hand', serial });
  }

  /** The draft is given up. */
  dropDraft() {
    this.send({ type: 'length', samples: this.length });
    this.tell({ type: 'given-up' });
  }

  async play(from = usePlayer.getState().position, until?: number) {
    const start = from >= this.length ? 0 : from;
    this.stopAt = until;
    const mine = ++this.wanted;
    // Whoever has stopped it meanwhile does not want to hear it begin.
    if (!(await this.ready()) || mine !== this.wanted) return;
    this.silence.broken();
    usePlayer.setState({ playing: true, position: start });
    this.jump();
    this.send({ type: 'play', from: start });
    this.look(start);
  }

  pause() {
    this.wanted++;
    this.stopAt = undefined;
    const position = Math.min(this.heard(), Math.max(0, this.length));
    this.send({ type: 'pause' });
    usePlayer.setState({ playing: false, position, peaks: [0, 0], starving: false });
  }

  toggle() {
    if (usePlayer.getState().playing) this.pause();
    else void this.play();
  }

  seek(sample: number) {
    const position = Math.max(0, Math.min(Math.round(sample), Math.max(0, this.length)));
    this.stopAt = undefined;
    this.jump();
    this.send({ type: 'seek', to: position });
    usePlayer.setState((state) => ({ position, jumps: state.jumps + 1 }));
    this.look(position);
  }

  /** What the reel is compared with from here on. */
  setAgainst(against: Against) {
    usePlayer.setState({ against });
    this.tell({ type: 'against', state: against.state });
  }

  /** By how many dB the other side is heard louder. */
  setMatch(match: number) {
    if (match === usePlayer.getState().match) return;
    usePlayer.setState({ match });
    this.send({ type: 'match', gain: 10 ** (match / 20) });
  }

  /** Let only a part of the sound through. */
  setPart(part: Part, band: Band = usePlayer.getState().band) {
    usePlayer.setState({ part, band });
    this.output?.setPart(part, band);
  }

  /** The meters begin anew. */
  resetMeters() {
    this.send({ type: 'reset-meters' });
    usePlayer.setState({ levels: undefined, overs: [] });
  }

  setSide(side: Heard) {
    usePlayer.setState({ side });
    this.look(usePlayer.getState().position);
    this.send({ type: 'side', side });
  }

  setLoop(loop: { start: number; end: number } | undefined) {
    usePlayer.setState({ loop });
    if (loop) this.send({ type: 'loop', ...loop });
    else this.send({ type: 'noloop' });
    this.look(usePlayer.getState().position);
  }

  setSpeed(speed: number) {
    usePlayer.setState((state) => ({ speed, jumps: state.jumps + 1 }));
    this.last = undefined;
    this.send({ type: 'speed', speed });
  }

  /** Let a moment of sound be heard while the playhead is dragged. */
  async scrub(sample: number) {
    this.seek(sample);
    if (usePlayer.getState().playing || !(await this.ready())) return;
    this.send({ type: 'scrub', at: Math.round(sample) });
  }

  setVolume(volume: number) {
    localStorage.setItem(VOLUME_KEY, String(volume));
    usePlayer.setState({ volume });
    this.output?.setVolume(volume);
  }

  setDelay(delay: number) {
    localStorage.setItem(DELAY_KEY, String(delay));
    usePlayer.setState({ delay });
  }

  /** The sample that is heard at this moment. */
  heard(): number {
    const { playing, position, starving, loop, delay, speed } = usePlayer.getState();
    if (!playing || !this.output || !this.last?.playing || starving) return position;
    const now = this.output.now();
    const late = (delay / 1000) * this.rate;
    let sample = this.last.position + (now * this.rate - this.last.frame - late) * speed;
    if (loop && this.last.position >= loop.start && sample < loop.start && position >= loop.start)
      sample += loop.end - loop.start;
    return Math.max(0, Math.min(Math.round(sample), this.length));
  }

  /** The node whose output 0 is the sound and output 1 its place in the reel. */
  get tap(): AudioWorkletNode | undefined {
    return this.output?.node;
  }

  close() {
    this.closed = true;
    cancelAnimationFrame(this.animation);
    this.supply.terminate();
    this.output?.close();
  }

  private look(position: number) {
    const { side, playing, loop } = usePlayer.getState();
    this.tell({ type: 'look', want: { side, position, playing, loop } });
  }

  /** Whether there is something to play on; if there is not, it is said why. */
  private async ready(): Promise<boolean> {
    if (!this.supplied) {
      this.silenced(NOT_LOADED);
      return false;
    }
    this.starting ??= startSound(this.rate, usePlayer.getState().volume, {
      report: (report) => this.report(report),
      silenced: (why) => this.silenced(why),
    }).then(
      (output) => {
        if (this.closed) output.close();
        else {
          this.output = output;
          output.setPart(usePlayer.getState().part, usePlayer.getState().band);
          this.join(output);
        }
        return output;
      },
      (error: unknown) => {
        this.silenced(error instanceof Error ? error.message : String(error));
        return undefined;
      },
    );
    const output = await this.starting;
    if (!output) {
      // The next attempt begins from nothing.
      this.starting = undefined;
      return false;
    }
    const why = await output.wake();
    if (why) this.silenced(why);
    else if (usePlayer.getState().mute) usePlayer.setState({ mute: '' });
    return !why;
  }

  private join(output: Output) {
    const { port1, port2 } = new MessageChannel();
    output.node.port.postMessage({ type: 'port' } satisfies ToWorklet, [port1]);
    this.tell({ type: 'output' }, [port2]);
  }

  /** Nothing can be heard any more: playing is never silent without a word. */
  private silenced(why: string) {
    if (this.closed) return;
    const { playing, position } = usePlayer.getState();
    if (playing) this.send({ type: 'pause' });
    usePlayer.setState({ playing: false, position, starving: false, peaks: [0, 0], mute: why });
    if (this.output?.broken()) {
      // What it holds is gone with it: it is fetched and said anew.
      this.output.close();
      this.output = undefined;
      this.starting = undefined;
      this.last = undefined;
      this.tell({ type: 'lost' });
      this.sayAll();
    }
  }

  /** What a new worklet must know. */
  private sayAll() {
    const { side, loop, speed, position, match } = usePlayer.getState();
    this.send({ type: 'length', samples: this.length });
    this.send({ type: 'match', gain: 10 ** (match / 20) });
    this.send({ type: 'side', side });
    this.send({ type: 'speed', speed });
    if (loop) this.send({ type: 'loop', ...loop });
    this.look(position);
  }

  private report(report: Report) {
    if (report.jumps !== this.jumps) return;
    this.last = report;
    this.silence.broken();
    const state = usePlayer.getState();
    if (report.ended && state.playing) {
      usePlayer.setState({ playing: false, position: this.length, peaks: [0, 0] });
      return;
    }
    if (report.overs) this.noteOvers(report.overs);
    const { loudest } = this;
    // Nothing of before a pause is shown after it.
    this.loudest = state.playing
      ? [Math.max(loudest[0], report.peaks[0]), Math.max(loudest[1], report.peaks[1])]
      : [0, 0];
    // With what the meters say: bars that move at every report are not read, but have to be drawn.
    if (report.levels) {
      usePlayer.setState({ levels: report.levels, peaks: this.loudest });
      this.loudest = [0, 0];
    }
    if (state.playing && report.starving !== state.starving)
      usePlayer.setState({ starving: report.starving });
  }

  private noteOvers(places: readonly number[]) {
    const { overs } = usePlayer.getState();
    const apart = this.rate / 10;
    const fresh = places.filter((p) => !overs.some((o) => Math.abs(o - p) < apart));
    if (fresh.length > 0)
      usePlayer.setState({
        overs: [...overs, fresh[0]!].sort((a, b) => a - b).slice(0, MOST_OVERS),
      });
  }

  /** It begins elsewhere: what is told from before that is out of date. */
  private jump() {
    this.last = undefined;
    this.send({ type: 'jump', count: ++this.jumps });
  }

  /** To the output, by way of what supplies it. */
  private send(message: ToWorklet) {
    this.tell({ type: 'say', message });
  }

  private tell(message: ToSupply, ports: Transferable[] = []) {
    const token = csrfToken();
    if (token !== this.token) this.supply.postMessage({ type: 'token', token } satisfies ToSupply);
    this.token = token;
    this.supply.postMessage(message, ports);
  }
}
