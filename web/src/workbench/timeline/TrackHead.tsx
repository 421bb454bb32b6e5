import { ActionIcon, Menu, Tooltip } from '@mantine/core';
import { IconDots } from '@tabler/icons-react';
import { memo, useState, type ReactNode } from 'react';
import { useShallow } from 'zustand/react/shallow';
import { firstValue, type ReelDocument, type Track } from '../../reel/document';
import { atOnce } from '../../hand/gesture';
import { useTurning } from '../../hand/turning';
import { useSession, type Command } from '../../reel/session';
import { readValue } from '../../typed/values';
import { TypedField } from '../fields/TypedField';
import { LEVEL, SILENCE_DB } from '../keyframes/lanes';
import { formatValue } from '../values/values';
import { AnalyseItems } from '../analysis/AnalyseMenu';
import { TrackMeter } from '../analysis/TrackMeter';
import { useOpenLanes } from '../keyframes/openLanes';
import { useSelection } from '../selected/selection';
import { ChainButton } from '../treatments/ChainButton';
import { useReel, without } from '../../reel/useReel';

/** One press of an arrow key. */
const NUDGE_DB = 0.5;

interface Props {
  id: string;
  index: number;
  /** Drags the track to another place. */
  handle: ReactNode;
}

/** What is shown of a track in its head. */
interface Headed extends Omit<Track, 'clips' | 'treatments' | 'treatment'> {
  /** How many effects treat all of it. */
  count: number;
}

function headOf(reel: ReelDocument, of: string): Headed | undefined {
  const track = reel.tracks?.find((t) => t.id === of);
  if (!track) return undefined;
  const count = track.treatment?.effects?.length ?? 0;
  return { ...without(track, 'clips', 'treatments', 'treatment'), count };
}

/** A track's name, switches, level and treatment. */
export const TrackHead = memo(function TrackHead({ id, index, handle }: Props) {
  const track = useReel(useShallow((d: ReelDocument) => headOf(d, id)));
  return track ? <Head track={track} index={index} handle={handle} /> : null;
});

function Head({ track, index, handle }: Omit<Props, 'id'> & { track: Headed }) {
  const select = useSelection((s) => s.select);
  const chosen = useSelection(({ selection: s }) => s.kind === 'track' && s.id === track.id);
  const edit = useSession((s) => s.edit);
  const [naming, setNaming] = useState(false);
  const toggle = (what: 'mute' | 'solo') =>
    void atOnce({ kind: 'set_track', id: track.id, [what]: !track[what] });
  const gain = firstValue(track.gain_db, 0);
  const name = track.name ?? '';
  return (
    <div className="track-head" data-heard data-folded={track.folded || undefined}>
      <TrackMeter track={track} />
      <div className="track-title">
        {!track.folded && handle}
        {naming ? (
          <input
            className="track-name-field"
            aria-label={`New name of ${name}`}
            autoFocus
            defaultValue={name}
            onFocus={(e) => e.currentTarget.select()}
            onBlur={(e) => {
              const text = e.currentTarget.value.trim();
              if (text && text !== name) void edit({ kind: 'set_track', id: track.id, name: text });
              setNaming(false);
            }}
            onKeyDown={(e) => {
              if (e.key === 'Enter') e.currentTarget.blur();
              if (e.key === 'Escape') setNaming(false);
            }}
          />
        ) : (
          // Its menu renames it by keys.
          // eslint-disable-next-line jsx-a11y/no-static-element-interactions
          <span title={`${name}: double click to rename`} onDoubleClick={() => setNaming(true)}>
            {name}
          </span>
        )}
        <Switch label={`Mute ${name}`} tip="Mute" on={track.mute} press={() => toggle('mute')}>
          M
        </Switch>
        <Switch
          label={`Solo ${name}`}
          tip="Solo: hear this track alone"
          on={track.solo}
          press={() => toggle('solo')}
        >
          S
        </Switch>
      </div>
      {!track.folded && (
        <>
          <div className="track-foot">
            <GainField
              gain={gain}
              moves={typeof track.gain_db === 'object'}
              name={name}
              edits={(gain_db) => [{ kind: 'set_track', id: track.id, gain_db }]}
            />
            <ChainButton
              what={`all of ${name}`}
              count={track.count}
              chosen={chosen}
              onClick={() => select({ kind: 'track', id: track.id })}
            />
            <TrackMenu track={track} index={index} rename={() => setNaming(true)} />
          </div>
        </>
      )}
      {track.folded && (
        <div className="track-tools">
          {handle}
          <TrackMenu track={track} index={index} rename={() => setNaming(true)} />
        </div>
      )}
    </div>
  );
}

function Switch(props: {
  label: string;
  tip: string;
  on: boolean | undefined;
  press: () => void;
  children: string;
}) {
  return (
    <Tooltip label={props.tip}>
      <button
        type="button"
        className="toggle"
        aria-label={props.label}
        aria-pressed={props.on ?? false}
        onClick={props.press}
      >
        {props.children}
      </button>
    </Tooltip>
  );
}

/** Name, height, order, lanes, removal. */
function TrackMenu({ track, index, rename }: { track: Headed; index: number; rename: () => void }) {
  const edit = useSession((s) => s.edit);
  const { names, toggle } = useOpenLanes();
  const select = useSelection((s) => s.select);
  const set = (values: Record<string, unknown>) =>
    void edit({ kind: 'set_track', id: track.id, ...values });
  const move = (to: number) => void edit({ kind: 'move_track', id: track.id, index: to });
  const lane = (value: string) => `track:${track.id}/${value}`;
  const last = useReel((d) => (d.tracks ?? []).length - 1);
  return (
    <Menu position="bottom-start" width={210}>
      <Menu.Target>
        <ActionIcon
          className="track-menu"
          size={24}
          variant="subtle"
          color="gray"
          aria-label={`More for track ${track.name}`}
        >
          <IconDots size={15} />
        </ActionIcon>
      </Menu.Target>
      <Menu.Dropdown>
        {(['gain_db', 'pan'] as const).map((value) => (
          <Menu.Item key={value} onClick={() => toggle(lane(value))}>
            {names.includes(lane(value)) ? 'Close' : 'Open'} the lane of{' '}
            {value === 'pan' ? 'pan' : 'level'}
          </Menu.Item>
        ))}
        <Menu.Sub>
          <Menu.Sub.Target>
            <Menu.Sub.Item>Analyse</Menu.Sub.Item>
          </Menu.Sub.Target>
          <Menu.Sub.Dropdown>
            <AnalyseItems of={[`track:${track.id}`]} />
          </Menu.Sub.Dropdown>
        </Menu.Sub>
        <Menu.Divider />
        <Menu.Item onClick={rename}>Rename</Menu.Item>
        <Menu.Item onClick={() => set({ folded: !track.folded })}>
          {track.folded ? 'Unfold' : 'Fold'}
        </Menu.Item>
        {(['low', 'middle', 'high'] as const)
          .filter((h) => h !== (track.height ?? 'middle'))
          .map((height) => (
            <Menu.Item key={height} onClick={() => set({ height, folded: false })}>
              Height: {height}
            </Menu.Item>
          ))}
        <Menu.Divider />
        <Menu.Item disabled={index === 0} onClick={() => move(index - 1)}>
          Move up
        </Menu.Item>
        <Menu.Item disabled={index === last} onClick={() => move(index + 1)}>
          Move down
        </Menu.Item>
        <Menu.Item
          color="var(--bad)"
          onClick={() => {
            select({ kind: 'none' });
            void edit({ kind: 'remove_track', id: track.id });
          }}
        >
          Remove the track
        </Menu.Item>
      </Menu.Dropdown>
    </Menu>
  );
}

function GainField(props: {
  gain: number;
  moves: boolean;
  name: string;
  edits: (gain: number) => readonly Command[];
}) {
  const { moves, name, edits } = props;
  const { turning, finish: keep, settle } = useTurning({ stored: props.gain, edits });
  const gain = turning ?? props.gain;
  const shown = formatValue(LEVEL, gain);
  if (moves) return <span className="number quiet">{shown} moves</span>;
  return (
    <TypedField
      className="number track-gain"
      label={`Level of ${name}`}
      shown={shown}
      read={(text) => readValue({ ...LEVEL, low: SILENCE_DB }, text)}
      keep={(value) => value !== gain && keep(value)}
      heard
      nudge={(steps) => settle(Math.round((gain + steps * NUDGE_DB) * 10) / 10, true)}
    />
  );
}
