/**
 * The transport. The sound card's clock leads: the worklet plays samples and says which, and the
 * picture follows.
 */
import { create } from 'zustand';
import type { Command } from '../reel/session';
import { Blocks } from './blocks';
import type { Report, Side, ToWorklet } from './messages';
import workletUrl from './worklet.ts?worker&url';

interface PlayerState {
  playing: boolean;
  starving: boolean;
  /** Sample at the playhead; while playing it is refreshed for drawing at each frame. */
  position: number;
  side: Side;
  loop: { start: number; end: number } | undefined;
  /** How fast it plays; the pitch is held. */
  speed: number;
  volume: number;
  /** Milliseconds by which the headphones are late (wireless ones often are). */
  delay: number;
  peaks: [number, number];
  trouble: string;
  /** Counts the jumps of the playhead, so that the picture can jump as well. */
  jumps: number;
}

const VOLUME_KEY = 'bathyphon.volume';
const DELAY_KEY = 'bathyphon.headphone-delay';

function stored(key: string, otherwise: number): number {
  const value = Number(localStorage.getItem(key) ?? otherwise);
  return Number.isFinite(value) ? value : otherwise;
}

export const usePlayer = create<PlayerState>()(() => ({
  playing: false,
  starving: false,
  position: 0,
  side: 'treated',
  loop: undefined,
  speed: 1,
  volume: stored(VOLUME_KEY, 1),
  delay: stored(DELAY_KEY, 0),
  peaks: [0, 0],
  trouble: '',
  jumps: 0,
}));

export class Player {
  private context: AudioContext | undefined;
  private node: AudioWorkletNode | undefined;
  private volume: GainNode | undefined;
  private readonly blocks: Blocks;
  private waiting: ToWorklet[] = [];
  private last: Report | undefined;
  private stopAt: number | undefined;
  private animation = 0;
  private length = 0;

  constructor(
    reel: string,
    private readonly rate: number,
  ) {
    usePlayer.setState({ playing: false, position: 0, loop: undefined, side: 'treated', speed: 1 });
    this.blocks = new Blocks(
      { reel, rate },
      (side, index, sound) => this.send({ type: 'block', side, index, sound }),
      (side, index) => this.send({ type: 'drop', side, index }),
      (trouble) => {
        if (usePlayer.getState().trouble !== trouble) usePlayer.setState({ trouble });
      },
    );
    const draw = () => {
      this.animation = requestAnimationFrame(draw);
      const state = usePlayer.getState();
      if (!state.playing) return;
      const position = this.heard();
      if (position !== state.position) usePlayer.setState({ position });
      this.blocks.look(state.side, this.last?.position ?? position, true);
      if (this.stopAt !== undefined && position >= this.stopAt) this.pause();
    };
    this.animation = requestAnimationFrame(draw);
    this.blocks.look('treated', 0, false);
  }

  /** The document has a new revision and the reel this many samples. */
  setRevision(revision: number, length: number) {
    this.length = length;
    this.send({ type: 'length', samples: length });
    this.blocks.setRevision(revision, length);
  }

  /** Let uncommitted edits be heard; an empty list ends that. */
  setProvisional(commands: Command[]) {
    this.blocks.setProvisional(commands);
  }

  async play(from = usePlayer.getState().position, until?: number) {
    const start = from >= this.length ? 0 : from;
    this.stopAt = until;
    await this.ready();
    await this.context?.resume();
    const { side } = usePlayer.getState();
    this.blocks.look(side, start, true);
    this.send({ type: 'play', from: start });
    usePlayer.setState({ playing: true, position: start });
  }

  pause() {
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
    const { side, playing } = usePlayer.getState();
    this.stopAt = undefined;
    this.last = undefined;
    this.send({ type: 'seek', to: position });
    usePlayer.setState((state) => ({ position, jumps: state.jumps + 1 }));
    this.blocks.look(side, position, playing);
  }

  setSide(side: Side) {
    usePlayer.setState({ side });
    this.blocks.look(side, usePlayer.getState().position, usePlayer.getState().playing);
    this.send({ type: 'side', side });
  }

  setLoop(loop: { start: number; end: number } | undefined) {
    usePlayer.setState({ loop });
    if (loop) this.send({ type: 'loop', ...loop });
    else this.send({ type: 'noloop' });
  }

  setSpeed(speed: number) {
    usePlayer.setState((state) => ({ speed, jumps: state.jumps + 1 }));
    this.last = undefined;
    this.send({ type: 'speed', speed });
  }

  /** Let a moment of sound be heard while the playhead is dragged. */
  async scrub(sample: number) {
    this.seek(sample);
    if (usePlayer.getState().playing) return;
    await this.ready();
    await this.context?.resume();
    this.send({ type: 'scrub', at: Math.round(sample) });
  }

  setVolume(volume: number) {
    localStorage.setItem(VOLUME_KEY, String(volume));
    usePlayer.setState({ volume });
    if (this.volume && this.context)
      this.volume.gain.setTargetAtTime(volume, this.context.currentTime, 0.01);
  }

  setDelay(delay: number) {
    localStorage.setItem(DELAY_KEY, String(delay));
    usePlayer.setState({ delay });
  }

  /** The sample that is heard at this moment. */
  heard(): number {
    const { playing, position, starving, loop, delay, speed } = usePlayer.getState();
    if (!playing || !this.context || !this.last?.playing || starving) return position;
    const stamp = this.context.getOutputTimestamp();
    const now =
      stamp.contextTime && stamp.performanceTime
        ? stamp.contextTime + (performance.now() - stamp.performanceTime) / 1000
        : this.context.currentTime;
    const late = (delay / 1000) * this.rate;
    let sample = this.last.position + (now * this.rate - this.last.frame - late) * speed;
    if (loop && this.last.position >= loop.start && sample < loop.start && position >= loop.start)
      sample += loop.end - loop.start;
    return Math.max(0, Math.min(Math.round(sample), this.length));
  }

  /** The node whose output 0 is the sound and output 1 its place in the reel. */
  get tap(): AudioWorkletNode | undefined {
    return this.node;
  }

  close() {
    cancelAnimationFrame(this.animation);
    this.blocks.close();
    void this.context?.close();
  }

  private async ready() {
    if (this.node) return;
    const context = new AudioContext({ sampleRate: this.rate, latencyHint: 'interactive' });
    await context.audioWorklet.addModule(workletUrl);
    if (this.node) return;
    const node = new AudioWorkletNode(context, 'block-player', {
      numberOfInputs: 0,
      numberOfOutputs: 2,
      outputChannelCount: [2, 2],
      processorOptions: { grid: this.rate },
    });
    const volume = new GainNode(context, { gain: usePlayer.getState().volume });
    node.connect(volume, 0).connect(context.destination);
    node.port.onmessage = (e: MessageEvent<Report>) => this.report(e.data);
    this.context = context;
    this.volume = volume;
    this.node = node;
    for (const message of this.waiting) node.port.postMessage(message);
    this.waiting = [];
  }

  private report(report: Report) {
    this.last = report;
    const state = usePlayer.getState();
    if (report.ended && state.playing) {
      usePlayer.setState({ playing: false, position: this.length, peaks: [0, 0] });
      return;
    }
    if (state.playing) usePlayer.setState({ peaks: report.peaks, starving: report.starving });
  }

  private send(message: ToWorklet) {
    // Before the first gesture there is no audio yet; what was said is passed on then.
    if (this.node) this.node.port.postMessage(message);
    else this.waiting.push(message);
  }
}
