/** What of the sound is let through to the ear: a side, the middle, a band, one small loudspeaker. */

export type Part =
  | 'all'
  | 'left'
  | 'right'
  | 'middle'
  | 'sides'
  | 'mono'
  | 'small'
  | 'bass'
  | 'speech'
  | 'treble'
  | 'band';

/** From and to which frequency, in Hz. */
export type Band = readonly [low: number, high: number];

export const PARTS: readonly { part: Part; label: string; marked: string }[] = [
  { part: 'all', label: 'All of it', marked: '' },
  { part: 'left', label: 'The left side', marked: 'Only the left side is heard' },
  { part: 'right', label: 'The right side', marked: 'Only the right side is heard' },
  { part: 'middle', label: 'The middle', marked: 'Only the middle is heard' },
  { part: 'sides', label: 'What differs between the sides', marked: 'Only the sides are heard' },
  { part: 'mono', label: 'As mono', marked: 'Heard as mono' },
  { part: 'small', label: 'By a small loudspeaker', marked: 'Heard by a small loudspeaker' },
  { part: 'bass', label: 'Below 200 Hz', marked: 'Only the bass is heard' },
  { part: 'speech', label: 'Where speech lives, 300 Hz to 4 kHz', marked: 'Only 300 Hz to 4 kHz' },
  { part: 'treble', label: 'Above 4 kHz', marked: 'Only the treble is heard' },
  { part: 'band', label: 'Custom band', marked: 'Only this band is heard:' },
];

/** What of left and right goes to the left and to the right ear. */
const MATRIX: Record<Part, readonly [number, number, number, number]> = {
  all: [1, 0, 0, 1],
  left: [1, 0, 1, 0],
  right: [0, 1, 0, 1],
  middle: [0.5, 0.5, 0.5, 0.5],
  sides: [0.5, -0.5, -0.5, 0.5],
  mono: [0.5, 0.5, 0.5, 0.5],
  small: [0.5, 0.5, 0.5, 0.5],
  bass: [1, 0, 0, 1],
  speech: [1, 0, 0, 1],
  treble: [1, 0, 0, 1],
  band: [1, 0, 0, 1],
};
const LOWEST_HZ = 1;
const GLIDE_SECONDS = 0.01;

/** From and to which frequency it is let through. */
function bandOf(part: Part, highest: number, own: Band): Band {
  switch (part) {
    case 'small':
      return [350, 7000];
    case 'bass':
      return [LOWEST_HZ, 200];
    case 'speech':
      return [300, 4000];
    case 'treble':
      return [4000, highest];
    case 'band':
      return own;
    default:
      return [LOWEST_HZ, highest];
  }
}

export interface Monitor {
  input: AudioNode;
  output: AudioNode;
  /** `own` is the band that counts for `band`. */
  hear: (part: Part, own: Band) => void;
}

/**
 * The way from the player to the volume. As long as all of it is heard the sound takes the direct
 * way, on which nothing is done to it.
 */
export function makeMonitor(context: AudioContext): Monitor {
  const input = new GainNode(context);
  const output = new GainNode(context);
  const direct = new GainNode(context, { gain: 1 });
  const partly = new GainNode(context, { gain: 0 });
  const splitter = new ChannelSplitterNode(context, { numberOfOutputs: 2 });
  const merger = new ChannelMergerNode(context, { numberOfInputs: 2 });
  const gains = MATRIX.all.map((gain, k) => {
    const node = new GainNode(context, { gain });
    splitter.connect(node, k % 2).connect(merger, 0, k < 2 ? 0 : 1);
    return node;
  });
  const highest = context.sampleRate / 2;
  const filters = (['highpass', 'highpass', 'lowpass', 'lowpass'] as const).map(
    (type, k) => new BiquadFilterNode(context, { type, frequency: k < 2 ? LOWEST_HZ : highest }),
  );
  input.connect(direct).connect(output);
  input.connect(splitter);
  filters.reduce<AudioNode>((from, filter) => from.connect(filter), merger).connect(partly);
  partly.connect(output);
  const glide = (param: AudioParam, value: number) =>
    param.setTargetAtTime(value, context.currentTime, GLIDE_SECONDS);
  return {
    input,
    output,
    hear: (part, own) => {
      glide(direct.gain, part === 'all' ? 1 : 0);
      glide(partly.gain, part === 'all' ? 0 : 1);
      if (part === 'all') return;
      MATRIX[part].forEach((gain, k) => glide(gains[k]!.gain, gain));
      const [low, high] = bandOf(part, highest, own);
      filters.forEach((filter, k) => glide(filter.frequency, k < 2 ? low : high));
    },
  };
}
