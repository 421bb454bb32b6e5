import { useTurning } from '../../hand/turning';
import type { Command } from '../../reel/session';
import { readValue } from '../../typed/values';
import { useTools } from '../tools/context';
import { TypedField } from './TypedField';

const MOST = 100000;
const FRAMES = {
  unit: 'f',
  low: 0,
  high: MOST,
  scale: 'linear',
  default: 3,
  whole: true,
};

/** A length in frames; typed in frames, milliseconds or seconds, nudged with arrow keys. */
export function FrameField({
  label,
  short,
  frames: stored,
  edits,
  save,
}: {
  label: string;
  /** What stands beside it, where there is little room. */
  short?: string | undefined;
  frames: number;
  /** The edits that a length stands for; */
  edits?: (frames: number) => readonly Command[];
  /** or what is done with it, where it is no edit. */
  save?: (frames: number) => void;
}) {
  const { clock } = useTools();
  const { turning, finish: keep, settle } = useTurning({ stored, edits: (n) => edits?.(n) ?? [] });
  const frames = turning ?? stored;
  const set = (n: number, nudged: boolean) => {
    if (save) save(n);
    else if (nudged) settle(n, true);
    else keep(n);
  };
  const read = (text: string) =>
    readValue({ ...FRAMES, label }, text, { f: 1000 / clock.framesPerSecond });
  return (
    <label className="frame-field" title={short && label}>
      {short ?? label}
      <TypedField
        className="number"
        label={label}
        shown={`${frames} f`}
        read={read}
        keep={(wanted) => wanted !== frames && set(wanted, false)}
        heard={save === undefined}
        nudge={(steps) => set(Math.max(0, frames + steps), true)}
      />
    </label>
  );
}
