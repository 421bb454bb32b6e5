import { NativeSelect } from '@mantine/core';
import { useShallow } from 'zustand/react/shallow';
import type { ReelDocument } from '../../reel/document';
import { lengthFrom, momentFrom } from '../../typed/moments';
import { useReel } from '../../reel/useReel';
import { lengthText } from '../../time/clock';
import { useTools } from '../tools/context';
import { TypedField } from './TypedField';

interface Props {
  /** Its first sample, and the one after its last. */
  start: number;
  end: number;
  track: string;
  /** It goes there as it is. */
  move: (start: number) => void;
  /** It begins or ends elsewhere. */
  trim: (edge: 'start' | 'end', to: number) => void;
  toTrack: (track: string) => void;
}

/** Where a clip or a treatment lies, typed: Start moves it, In, Out and Duration trim it. */
export function PlaceFields({ start, end, track, move, trim, toTrack }: Props) {
  const { clock } = useTools();
  const ids = useReel(useShallow((d: ReelDocument) => d.tracks?.map((t) => t.id))) ?? [];
  const names = useReel(useShallow((d: ReelDocument) => d.tracks?.map((t) => t.name))) ?? [];
  const moment = (label: string, help: string, here: number, keep: (to: number) => void) => (
    <label className="frame-field" title={help}>
      {label}
      <TypedField
        className="text-field"
        label={label}
        shown={clock.timecode(here)}
        read={(text) => momentFrom(clock, text, here)}
        keep={keep}
        heard
        nudge={(steps) => keep(moved(clock.frameOfSample(here) + steps))}
      />
    </label>
  );
  const moved = (frame: number) => clock.sampleOfFrame(Math.max(0, frame));
  return (
    <div className="place-fields">
      {moment('Start', 'Moves it; +12 f for a step', start, move)}
      {moment('In', 'Trims the beginning', start, (to) => trim('start', to))}
      {moment('Out', 'Trims the end', end, (to) => trim('end', to))}
      <label className="frame-field" title="Trims the end: 10 s, 250 f, 1:05:00 or 85 %">
        Duration
        <TypedField
          className="text-field"
          label="Duration"
          shown={lengthText(clock, end - start)}
          read={(text) => lengthFrom(clock, text, start, end - start)}
          keep={(length) => trim('end', start + length)}
          heard
        />
      </label>
      <label className="frame-field">
        Track
        <NativeSelect
          size="xs"
          aria-label="Track"
          value={track}
          data={ids.map((id, k) => ({ value: id, label: names[k] ?? id }))}
          onChange={(e) => toTrack(e.currentTarget.value)}
        />
      </label>
    </div>
  );
}
