import { Button, Menu, NativeSelect, Switch } from '@mantine/core';
import { useShallow } from 'zustand/react/shallow';
import { trackOf, type Clip, type ReelDocument } from '../../reel/document';
import { useSession } from '../../reel/session';
import { useClipEdits } from './clipEdits';
import { useTools } from '../tools/context';
import { LEVEL, SILENCE_DB } from '../keyframes/lanes';
import { usePartEdits } from '../selected/partEdits';
import { clipsOf, useSelection } from '../selected/selection';
import { useTogether } from '../selected/together';
import { useWaveSize } from '../axis/waveSize';
import { KeyOf } from '../keys/KeyOf';
import { syncText } from './SyncBadge';
import { Control } from '../fields/Control';
import { PlaceFields } from '../fields/PlaceFields';
import { RampField, type RampChange } from '../fields/RampField';
import { BedFields } from '../sounds/BedFields';
import { SpeedFields } from './SpeedFields';
import { useReel, without } from '../../reel/useReel';

/** Where a clip lies, how loud it is, how it fades, and whether it fits the picture. */
export function ClipFields({ id }: { id: string }) {
  const { clock } = useTools();
  const clip = useReel(
    useShallow((d: ReelDocument) => {
      const found = clipOf(d, id);
      return found && without(found, 'treatment');
    }),
  );
  const track = useReel((d) => trackOf(d, 'clips', id)?.id);
  const { alike, edit } = useTogether(`clip:${id}`);
  const sync = useSession((s) => s.derived?.sync[id]);
  const selection = useSelection((s) => s.selection);
  const edits = useClipEdits();
  const parts = usePartEdits();
  const { fitted, toggleFitted } = useWaveSize();
  if (!clip || !track) return null;
  const end = clip.start + clip.length;
  const count = clipsOf(selection).length;
  const frames = (a: number, b: number) => clock.frameOfSample(b) - clock.frameOfSample(a);
  const fade = (edge: 'in' | 'out', change: RampChange) =>
    alike([{ kind: 'set_fade', id, edge, fade: change }]);
  return (
    <div className="clip-fields">
      <PlaceFields
        start={clip.start}
        end={end}
        track={track}
        move={(sample) => void edit({ kind: 'move_clips', ids: [id], to: { sample } })}
        trim={(edge, sample) => void edit({ kind: 'trim_clip', id, edge, to: { sample } })}
        toTrack={(track) => void edit({ kind: 'move_clips', ids: [id], track })}
      />
      <Control
        parameter={LEVEL}
        lowest={SILENCE_DB}
        value={clip.gain_db ?? 0}
        reset={() => void edit({ kind: 'set_clip', id, gain_db: 0 })}
        edits={(v) => alike([{ kind: 'set_clip', id, gain_db: v }])}
        lane={`clip:${id}/gain_db`}
      />
      <div className="ramps">
        <RampField
          label="Fade in"
          rises
          ramp={clip.fade_in}
          frames={frames(clip.start, clip.start + (clip.fade_in?.length ?? 0))}
          edits={(change) => fade('in', change)}
        />
        <RampField
          label="Fade out"
          rises={false}
          ramp={clip.fade_out}
          frames={frames(end - (clip.fade_out?.length ?? 0), end)}
          edits={(change) => fade('out', change)}
        />
      </div>
      <Crossfades clip={clip} />
      <SpeedFields clip={clip} />
      {clip.bed && <BedFields clip={clip} track={track} />}
      {sync && (
        <p className="sync-line" data-eye={sync.eye}>
          <span>{syncText(sync)}</span>
          {sync.samples !== 0 && (
            <Button
              size="compact-xs"
              variant="default"
              onClick={() => void edit({ kind: 'sync_clips', ids: [id] })}
            >
              Back into sync
            </Button>
          )}
        </p>
      )}
      <div className="clip-row">
        <Switch
          size="xs"
          label="Clip on"
          checked={clip.enabled !== false}
          onChange={(e) => void edit({ kind: 'set_clip', id, enabled: e.currentTarget.checked })}
        />
        <Menu position="bottom-end">
          <Menu.Target>
            <Button size="compact-xs" variant="default">
              {count > 1 ? `${count} clips ▾` : 'Clip ▾'}
            </Button>
          </Menu.Target>
          <Menu.Dropdown>
            <Menu.Item rightSection={<KeyOf command="split" />} onClick={edits.split}>
              Split at the playhead
            </Menu.Item>
            <Menu.Item rightSection={<KeyOf command="join" />} onClick={edits.join}>
              Join with the next
            </Menu.Item>
            <Menu.Item rightSection={<KeyOf command="duplicate" />} onClick={parts.duplicate}>
              Duplicate
            </Menu.Item>
            {count > 1 && (
              <Menu.Item onClick={() => edits.copyFades(id)}>Give the others its fades</Menu.Item>
            )}
            <Menu.Item onClick={() => edits.tie(clip.tie == null)}>
              {clip.tie == null ? 'Tie to the picture as it lies' : 'Untie from the picture'}
            </Menu.Item>
            <Menu.Item onClick={() => toggleFitted(clipsOf(selection))}>
              {fitted.has(id) ? 'Draw its wave as the others' : 'Draw its wave as large as it fits'}
            </Menu.Item>
            <Menu.Divider />
            <Menu.Item rightSection={<KeyOf command="remove" />} onClick={parts.remove}>
              Remove
            </Menu.Item>
            <Menu.Item rightSection={<KeyOf command="remove-gap" />} onClick={edits.removeWithGap}>
              Remove and close the gap
            </Menu.Item>
          </Menu.Dropdown>
        </Menu>
      </div>
    </div>
  );
}

function clipOf(reel: ReelDocument, id: string): Clip | undefined {
  return (reel.tracks ?? []).flatMap((t) => t.clips ?? []).find((c) => c.id === id);
}

const LAWS = [
  { value: 'auto', label: 'by what they play' },
  { value: 'equal_gain', label: 'equal gain' },
  { value: 'equal_power', label: 'equal power' },
];

/** How a clip and those that it overlaps fade into each other. */
function Crossfades({ clip }: { clip: Clip }) {
  const track = useReel((d) => trackOf(d, 'clips', clip.id));
  const edit = useSession((s) => s.edit);
  const others = (track?.clips ?? []).filter((o) => o.id !== clip.id);
  const over = (sample: number) =>
    others.some((o) => o.start < sample && sample < o.start + o.length);
  const edges = [
    ['in', 'Crossfade at its start', clip.fade_in, over(clip.start)],
    ['out', 'Crossfade at its end', clip.fade_out, over(clip.start + clip.length)],
  ] as const;
  return edges.map(
    ([edge, label, fade, there]) =>
      there && (
        <label className="frame-field" key={edge}>
          {label}
          <NativeSelect
            size="xs"
            aria-label={label}
            value={fade?.auto ? (fade.law ?? 'auto') : ''}
            onChange={(e) =>
              void edit({ kind: 'set_crossfade', id: clip.id, edge, law: e.currentTarget.value })
            }
            data={fade?.auto ? LAWS : [{ value: '', label: 'set by hand' }, ...LAWS]}
          />
        </label>
      ),
  );
}
