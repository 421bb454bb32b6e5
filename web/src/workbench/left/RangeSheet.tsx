import { Button } from '@mantine/core';
import { useSession } from '../../reel/session';
import { lengthText } from '../../time/clock';
import { newId } from '../../ui/ids';
import { useTools } from '../context';
import { useKeyEdits } from '../lanes/keyEdits';
import { useSelection, type Selection } from '../selection';
import { AddEffect } from './AddEffect';
import { useReel } from '../../reel/useReel';

type Range = Extract<Selection, { kind: 'range' }>;

const RAMP_IN = 3;
const RAMP_OUT = 6;

/** What can be done with a range that has been dragged. */
export function RangeSheet({ stretch }: { stretch: Range }) {
  const { clock, effects } = useTools();
  const tracks = useReel((d) => d.tracks);
  const edit = useSession((s) => s.edit);
  const { select, openCard } = useSelection();
  const track = tracks?.find((t) => t.id === stretch.track);
  const keys = useKeyEdits();
  const inside = keys.countWithin(stretch.start, stretch.end);

  const treat = async (
    kind: string,
    params: Record<string, number> = {},
    frames: number[] = [],
  ) => {
    const label = effects.find((e) => e.id === kind)?.label ?? kind;
    const id = newId('f');
    const effect = newId('e');
    const first = clock.frameOfSample(stretch.start);
    const last = clock.frameOfSample(stretch.end);
    const room = last - first;
    // What is typed holds as far as there is room; else ramps leave most of the range as it is.
    const [head, foot = head] = frames;
    const ramp_in = { frames: Math.min(head ?? Math.min(RAMP_IN, Math.floor(room / 3)), room) };
    const left = room - ramp_in.frames;
    const ramp_out = { frames: Math.min(foot ?? Math.min(RAMP_OUT, Math.floor(room / 2)), left) };
    const done = await edit({
      kind: 'add_treatment',
      track: stretch.track,
      id,
      name: label,
      start: { frame: first },
      end: { frame: last },
      ramp_in,
      ramp_out,
      effects: [{ id: effect, kind, bypass: false, params }],
    });
    if (done) {
      select({ kind: 'treatment', id });
      openCard(effect);
    }
  };

  return (
    <div className="pad">
      <h2 className="sheet-title">
        <span>Range</span>
        <span className="quiet small">
          on {track?.name} · {lengthText(clock, stretch.end - stretch.start)}
        </span>
      </h2>
      <p className="number">
        {clock.timecode(stretch.start)} – {clock.timecode(stretch.end)}
      </p>
      {inside > 0 && (
        <Button
          size="compact-xs"
          variant="subtle"
          onClick={() => keys.within(stretch.start, stretch.end)}
        >
          Select its {inside === 1 ? 'keyframe' : `${inside} keyframes`}
        </Button>
      )}
      <AddEffect effects={effects} add={(...wanted) => void treat(...wanted)} />
      <p className="quiet">Treat this range with</p>
      <div className="choices">
        {effects.map((effect) => (
          <Button key={effect.id} variant="default" onClick={() => void treat(effect.id)}>
            <span>
              <strong>{effect.label}</strong>
              <span className="quiet small">{effect.help}</span>
            </span>
          </Button>
        ))}
      </div>
    </div>
  );
}
