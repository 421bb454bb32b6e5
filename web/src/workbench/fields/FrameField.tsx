import { useState } from 'react';
import { useTurning } from '../../hand/turning';
import type { Command } from '../../reel/session';
import { useTools } from '../tools/context';

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
  const [text, setText] = useState<string | undefined>();
  const finish = () => {
    const found = /^\s*(\d+(?:[.,]\d+)?)\s*(f|ms|s)?\s*$/.exec(text ?? '');
    if (found) {
      const amount = Number(found[1]!.replace(',', '.'));
      const perFrame = found[2] === 'ms' ? 1000 / clock.framesPerSecond : 1 / clock.framesPerSecond;
      const wanted = Math.round(found[2] === 'ms' || found[2] === 's' ? amount / perFrame : amount);
      if (wanted !== frames) set(wanted, false);
    }
    setText(undefined);
  };
  return (
    <label className="frame-field" title={short && label}>
      {short ?? label}
      <input
        className="number"
        aria-label={label}
        value={text ?? `${frames} f`}
        onChange={(e) => setText(e.currentTarget.value)}
        onFocus={(e) => e.currentTarget.select()}
        onBlur={finish}
        onKeyDown={(e) => {
          if (e.key === 'Enter') e.currentTarget.blur();
          if (e.key === 'Escape') setText(undefined);
          if (e.key === 'ArrowUp' || e.key === 'ArrowDown') {
            e.preventDefault();
            set(Math.max(0, frames + (e.key === 'ArrowUp' ? 1 : -1)), true);
          }
        }}
      />
    </label>
  );
}
