/** The audio graph: a worklet and a volume, and whatever may keep them from being heard. */
import type { Report } from './messages';
import { makeMonitor, type Band, type Part } from './monitor';
import workletUrl from './worklet.ts?worker&url';

export interface Output {
  node: AudioWorkletNode;
  /** Seconds of the context that are heard at this moment. */
  now: () => number;
  setVolume: (volume: number) => void;
  /** What of it is let through to the ear. */
  setPart: (part: Part, own: Band) => void;
  /** Let it run; why it does not, if so. */
  wake: () => Promise<string | undefined>;
  /** Whether it will never sound again. */
  broken: () => boolean;
  close: () => void;
}

interface Listener {
  report: (report: Report) => void;
  /** It has stopped by itself. */
  silenced: (why: string) => void;
}

const WAKE_MS = 2000;
const BLOCKED = 'The browser does not let this page play sound yet.';
const STOPPED = 'The sound device has stopped.';

/** Open the sound device; throws an error with one sentence if that cannot be done. */
export async function startSound(
  rate: number,
  volume: number,
  listener: Listener,
): Promise<Output> {
  let context: AudioContext;
  try {
    context = new AudioContext({ sampleRate: rate, latencyHint: 'interactive' });
  } catch {
    throw new Error(`The sound device cannot play at ${rate} Hz.`);
  }
  let closed = false;
  let failed = false;
  const stop = (why: string) => {
    if (!closed) listener.silenced(why);
  };
  try {
    await context.audioWorklet.addModule(workletUrl);
  } catch {
    void context.close();
    throw new Error('The player could not be loaded. Check the connection.');
  }
  const node = new AudioWorkletNode(context, 'block-player', {
    numberOfInputs: 0,
    numberOfOutputs: 2,
    outputChannelCount: [2, 2],
    processorOptions: { grid: rate },
  });
  const gain = new GainNode(context, { gain: volume });
  const monitor = makeMonitor(context);
  node.connect(monitor.input, 0);
  monitor.output.connect(gain).connect(context.destination);
  node.port.onmessage = (e: MessageEvent<Report>) => listener.report(e.data);
  node.onprocessorerror = () => {
    failed = true;
    stop('The player has stopped because of a fault.');
  };
  let awake = false;
  context.onstatechange = () => {
    // It is let go while nobody plays; what counts is that it stops while it should run.
    if (awake && context.state !== 'running') {
      awake = false;
      failed ||= context.state === 'closed';
      stop(STOPPED);
    }
  };
  context.addEventListener('error', () => {
    failed = true;
    stop(STOPPED);
  });
  return {
    node,
    now: () => {
      const stamp = context.getOutputTimestamp();
      return stamp.contextTime && stamp.performanceTime
        ? stamp.contextTime + (performance.now() - stamp.performanceTime) / 1000
        : context.currentTime;
    },
    setVolume: (value) => gain.gain.setTargetAtTime(value, context.currentTime, 0.01),
    setPart: monitor.hear,
    wake: async () => {
      if (failed) return STOPPED;
      // Where sound is not allowed, resuming neither succeeds nor fails.
      const late = new Promise((resolve) => setTimeout(resolve, WAKE_MS));
      try {
        await Promise.race([context.resume(), late]);
      } catch {
        return STOPPED;
      }
      awake = context.state === 'running';
      return awake ? undefined : BLOCKED;
    },
    broken: () => failed,
    close: () => {
      closed = true;
      void context.close().catch(() => undefined);
    },
  };
}
