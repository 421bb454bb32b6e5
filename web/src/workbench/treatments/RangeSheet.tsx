import { Button } from '@mantine/core';
import { useSession, type Command } from '../../reel/session';
import { lengthText } from '../../time/clock';
import { newId } from '../../ui/ids';
import { useTools } from '../tools/context';
import { useBeats } from '../tools/found';
import { markBeats } from '../transport/transport';
import { useKeyEdits } from '../keyframes/keyEdits';
import { touched, usePartEdits } from '../selected/partEdits';
import { several, useSelection, type Selection } from '../selected/selection';
import { countText } from '../selected/together';
import { AnalyseMenu } from '../analysis/AnalyseMenu';
import { useMakeRecipe } from '../recipes/own';
import { AddEffect } from '../effects/AddEffect';
import { plainly, rampEdits, type Wanted } from '../effects/finding';
import { reelNow, useReel } from '../../reel/useReel';

type Range = Extract<Selection, { kind: 'range' }>;

const EVERY = [
  [1, 'each beat'],
  [2, 'each 2nd'],
  [4, 'each 4th'],
] as const;

/** What can be done with a range that has been dragged. */
export function RangeSheet({ stretch }: { stretch: Range }) {
  const { clock, effects } = useTools();
  const tracks = useReel((d) => d.tracks);
  const edit = useSession((s) => s.edit);
  const { select, openCard } = useSelection();
  const names = (tracks ?? []).filter((t) => stretch.tracks.includes(t.id)).map((t) => t.name);
  const keys = useKeyEdits();
  const parts = usePartEdits();
  const inside = touched(reelNow(), stretch);
  const beats = useBeats().filter((b) => b >= stretch.start && b < stretch.end).length;
  const make = useMakeRecipe();
  const marks = keys.countWithin(stretch.start, stretch.end);

  const treating = ({ effect, name, ramps, after }: Wanted) => {
    const on = stretch.tracks.map((track) => ({ track, id: newId('f') }));
    const both = ramps.in !== undefined && ramps.out !== undefined;
    const commands: Command[] = [
      {
        kind: 'treat_range',
        on,
        start: { sample: stretch.start },
        end: { sample: stretch.end },
        name,
        ramps: both ? [ramps.in, ramps.out] : [],
        effects: [effect],
      },
      ...on.flatMap(({ id }) => [
        ...(both ? [] : rampEdits(id, ramps)),
        ...after(`treatment:${id}`),
      ]),
    ];
    return { on, commands };
  };
  const treat = async (wanted: Wanted) => {
    const { on, commands } = treating(wanted);
    if (await edit(commands)) {
      select(several(on.map(({ id }) => ({ kind: 'treatment', id }))));
      openCard(wanted.effect.id);
    }
  };

  return (
    <div className="pad">
      <h2 className="sheet-title">
        <span>Range</span>
        <span className="quiet small">
          on {names.length > 2 ? `${names.length} tracks` : names.join(' and ')} ·{' '}
          {lengthText(clock, stretch.end - stretch.start)}
        </span>
      </h2>
      <p className="number">
        {clock.timecode(stretch.start)} – {clock.timecode(stretch.end)}
      </p>
      {(marks > 0 || inside.length > 0) && (
        <div className="clip-row">
          <span className="control-label">Select its</span>
          {inside.length > 0 && (
            <Button
              size="compact-xs"
              variant="default"
              aria-label={`Select its ${countText(inside)}`}
              onClick={() => parts.within(stretch)}
            >
              {countText(inside)}
            </Button>
          )}
          {marks > 0 && (
            <Button
              size="compact-xs"
              variant="default"
              aria-label={`Select its ${marks === 1 ? 'keyframe' : `${marks} keyframes`}`}
              onClick={() => keys.within(stretch.start, stretch.end)}
            >
              {marks === 1 ? 'keyframe' : `${marks} keyframes`}
            </Button>
          )}
        </div>
      )}
      {inside.length > 0 && (
        <Button size="compact-sm" variant="default" onClick={() => make('Recipe')}>
          Save as a recipe
        </Button>
      )}
      {beats > 1 && (
        <div className="beat-row">
          <span>Markers on</span>
          {EVERY.map(([every, label]) => (
            <Button
              key={every}
              size="compact-xs"
              variant="default"
              aria-label={`Add markers on ${label}`}
              onClick={() => markBeats(stretch, every)}
            >
              {label}
            </Button>
          ))}
        </div>
      )}
      <AddEffect
        add={(wanted) => void treat(wanted)}
        edits={(wanted) => treating(wanted).commands}
        span={() => stretch}
      />
      <AnalyseMenu
        of={stretch.tracks.map((id) => `track:${id}`)}
        range={{ start: stretch.start, end: stretch.end }}
      />
      <p className="quiet">Treat this range with</p>
      <div className="choices">
        {effects.map((effect) => (
          <Button key={effect.id} variant="default" onClick={() => void treat(plainly(effect))}>
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
