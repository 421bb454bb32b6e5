import type { PointerEvent } from 'react';
import type { MediaLine } from '../../api/client';
import { follow } from '../../hand/pointer';
import { Wave } from '../axis/Wave';
import type { Part } from './laying';

const WIDTH = 284;
const HEIGHT = 26;

interface Props {
  line: MediaLine;
  part: Part | undefined;
  choose: (part: Part | undefined) => void;
  /** Begins to drag it to the timeline. */
  lay: (e: PointerEvent<Element>) => void;
}

/** A medium's wave: dragged to the timeline, or with Shift, to choose a part of it. */
export function MediumWave({ line, part, choose, lay }: Props) {
  const samples = line.info.sound!.samples;
  const down = (e: PointerEvent<HTMLElement>) => {
    if (!e.shiftKey) {
      lay(e);
      return;
    }
    e.preventDefault();
    const box = e.currentTarget.getBoundingClientRect();
    const at = (x: number) =>
      Math.round(Math.max(0, Math.min(1, (x - box.left) / box.width)) * samples);
    const from = at(e.clientX);
    const before = part;
    choose(undefined);
    follow(e, {
      moved: (m) => {
        const to = at(m.clientX);
        choose(to === from ? undefined : [Math.min(from, to), Math.max(from, to)]);
      },
      up: () => undefined,
      lost: () => choose(before),
    });
  };
  return (
    <span
      className="medium-wave"
      title="Drag to the timeline; Shift and drag: choose a part"
      onPointerDown={down}
      data-testid="medium-wave"
    >
      <Wave media={line.id} from={0} samples={samples} width={WIDTH} height={HEIGHT} gain={1} />
      {part && (
        <span
          className="medium-part"
          style={{
            left: `${(100 * part[0]) / samples}%`,
            width: `${(100 * (part[1] - part[0])) / samples}%`,
          }}
        />
      )}
    </span>
  );
}
