import { ActionIcon, Button, Menu, NativeSelect, SegmentedControl, Tooltip } from '@mantine/core';
import { IconDots } from '@tabler/icons-react';
import { useQueryClient } from '@tanstack/react-query';
import { memo, useState } from 'react';
import type { EffectTable } from '../../api/client';
import { usePlayer } from '../../player/player';
import type { MarkerKind, Pose, ReelDocument } from '../../reel/document';
import { useExpecting } from '../../hand/expecting';
import { atOnce } from '../../hand/gesture';
import { useSession } from '../../reel/session';
import { newId } from '../../ui/ids';
import { reelNow, useReel } from '../../reel/useReel';
import { useTools } from '../tools/context';
import { FrameField } from '../fields/FrameField';
import { TextField } from '../fields/TextField';
import { laneOf } from '../keyframes/lanes';
import { savePreset } from '../presets/presets';
import { useOpenLanes } from '../keyframes/openLanes';
import { lanesOfOwner } from '../keyframes/owned';

const OVER = 4;

/**
 * Poses: named sets of values, stamped at the playhead or on markers.
 *
 * A run such as "right, left, both" names poses in the order of the markers; a word that is no
 * pose yet is read as a value of the lane in hand.
 */
export const Poses = memo(function Poses({ owner }: { owner: string }) {
  const [opened, setOpened] = useState(false);
  const { effects } = useTools();
  const any = useReel((d) => lanesOfOwner(d, effects, owner).length > 0);
  if (!any) return null;
  if (!opened)
    return (
      <Button className="poses-open" variant="default" fullWidth onClick={() => setOpened(true)}>
        Stamp poses on markers…
      </Button>
    );
  return <Stamping owner={owner} />;
});

function Stamping({ owner }: { owner: string }) {
  const { effects, clock } = useTools();
  const document = useReel((d) => d);
  const edit = useSession((s) => s.edit);
  const names = useOpenLanes((s) => s.names);
  const inHand = useOpenLanes((s) => s.inHand);
  const queries = useQueryClient();
  const [run, setRun] = useState('');
  const { typing, typed } = useExpecting();
  const [chosenOn, setOn] = useState<string | undefined>();
  const [over, setOver] = useState(OVER);
  const [when, setWhen] = useState<'before' | 'after'>('before');
  const [lane, setLane] = useState('');
  const choices = lanesOfOwner(document, effects, owner);
  const open = names.filter((name) => choices.some((c) => c.name === name));
  const target =
    choices.find((c) => c.name === lane) ??
    choices.find((c) => c.name === inHand) ??
    choices.find((c) => c.name === open[0]) ??
    choices[0];
  if (!target) return null;
  const poses = (document.poses ?? []).filter((pose) =>
    Object.keys(pose.values ?? {}).some((name) => laneOf(document, effects, name)),
  );
  const here = poses.filter((pose) =>
    Object.keys(pose.values ?? {}).some((name) => name.startsWith(`${owner}/`)),
  );
  const markers = document.markers ?? [];
  const kinds = [...new Set(markers.map((m) => m.kind ?? 'note'))];
  // A run of several is meant for markers.
  const several = /[,;]\s*\S/.test(run);
  const on = chosenOn ?? (several && markers.length > 1 ? 'all' : 'playhead');

  const stamp = async () => {
    if (!run.trim()) return;
    const moments =
      on === 'playhead'
        ? [{ sample: Math.max(0, usePlayer.getState().position) }]
        : markers
            .filter((m) => on === 'all' || (m.kind ?? 'note') === (on as MarkerKind))
            .map((m) => ({ sample: m.at }));
    if (!moments.length) return;
    const stamp = newId('s');
    const text = run;
    const lane = target.name;
    if (!(await atOnce({ kind: 'stamp_poses', text, lane, moments, over, when, stamp }))) return;
    setRun('');
    // What has been stamped is seen at once.
    const { names: shown, toggle } = useOpenLanes.getState();
    for (const name of stampedLanes(reelNow(), effects, stamp))
      if (!shown.includes(name)) toggle(name);
  };

  const save = () => {
    const lanes = open.length ? open : [target.name];
    const name = `Pose ${poses.length + 1}`;
    const values = Object.fromEntries(lanes.map((l) => [l, null]));
    void edit({
      kind: 'add_pose',
      pose: { id: newId('p'), name, values },
      moment: { sample: Math.max(0, usePlayer.getState().position) },
    });
  };

  return (
    <section className="poses" aria-label="Poses" ref={scrolledTo}>
      <div className="list-head">
        <h3>Poses</h3>
        <Tooltip
          label={`Saves ${open.length > 1 ? `${open.length} open lanes` : target.label} as it is at the playhead`}
        >
          <Button size="compact-xs" variant="default" onClick={save}>
            Save as a pose
          </Button>
        </Tooltip>
      </div>
      {poses.map((pose) => (
        <PoseLine
          key={pose.id}
          pose={pose}
          pick={() => setRun(run ? `${run}, ${pose.name}` : (pose.name ?? ''))}
        />
      ))}
      {here.length > 0 && (
        <Button
          size="compact-xs"
          variant="default"
          onClick={() => {
            const name = here.map((pose) => pose.name).join(', ');
            void savePreset(queries, 'poses', owner, name);
          }}
        >
          Save the poses as a preset
        </Button>
      )}
      <form
        className="stamping"
        onSubmit={(e) => {
          e.preventDefault();
          void stamp();
        }}
      >
        {choices.length > 1 && (
          <NativeSelect
            size="xs"
            aria-label="What the run sets"
            value={target.name}
            onChange={(e) => setLane(e.currentTarget.value)}
            data={choices.map((c) => ({ value: c.name, label: `${c.label} · ${c.of}` }))}
          />
        )}
        <input
          className="run-field"
          aria-label="Run of poses"
          autoFocus
          placeholder={
            target.parameter.id === 'pan' ? 'right, left, both' : 'names or values, in order'
          }
          value={run}
          onChange={(e) => {
            setRun(e.currentTarget.value);
            typing();
          }}
          onBlur={typed}
        />
        <div className="clip-row">
          <NativeSelect
            size="xs"
            aria-label="Where to stamp"
            value={on}
            onChange={(e) => setOn(e.currentTarget.value)}
            data={[
              { value: 'playhead', label: 'at the playhead' },
              ...(markers.length
                ? [{ value: 'all', label: `on all ${markers.length} markers` }]
                : []),
              ...(kinds.length > 1
                ? kinds.map((k) => ({ value: k, label: `on markers: ${k}` }))
                : []),
            ]}
          />
          <FrameField label="over" frames={over} save={setOver} />
        </div>
        <div className="clip-row">
          <SegmentedControl
            size="xs"
            aria-label="When the pose is reached"
            value={when}
            onChange={(v) => setWhen(v as 'before' | 'after')}
            data={[
              { value: 'before', label: 'Arrive at marker' },
              { value: 'after', label: 'Leave at marker' },
            ]}
          />
          <Button size="compact-sm" type="submit" className="solid" aria-disabled={!run.trim()}>
            Stamp
          </Button>
        </div>
      </form>
      <p className="quiet small">
        {clock.framesPerSecond > 0 &&
          `Each is reached over ${over} frames and held until the next.`}
      </p>
    </section>
  );
}

function PoseLine({ pose, pick }: { pose: Pose; pick: () => void }) {
  const edit = useSession((s) => s.edit);
  const position = () => ({ sample: Math.max(0, usePlayer.getState().position) });
  return (
    <div className="pose-line">
      <TextField
        label={`Name of the pose ${pose.name}`}
        value={pose.name ?? ''}
        placeholder="name"
        save={(name) => name && void edit({ kind: 'set_pose', id: pose.id, name })}
      />
      <Button size="compact-xs" variant="default" onClick={pick}>
        Use
      </Button>
      <Menu position="bottom-end">
        <Menu.Target>
          <ActionIcon variant="subtle" color="gray" aria-label={`More for the pose ${pose.name}`}>
            <IconDots size={16} />
          </ActionIcon>
        </Menu.Target>
        <Menu.Dropdown>
          <Menu.Item
            onClick={() =>
              void edit({
                kind: 'set_pose',
                id: pose.id,
                moment: position(),
                values: Object.fromEntries(Object.keys(pose.values ?? {}).map((l) => [l, null])),
              })
            }
          >
            Take the values at the playhead
          </Menu.Item>
          <Menu.Item
            color="var(--bad)"
            onClick={() => void edit({ kind: 'remove_pose', id: pose.id })}
          >
            Remove; its keyframes stay
          </Menu.Item>
        </Menu.Dropdown>
      </Menu>
    </div>
  );
}

/** Lanes of poses that hold keyframes of a stamping. */
function stampedLanes(document: ReelDocument, effects: EffectTable[], stamp: string): string[] {
  const names = new Set((document.poses ?? []).flatMap((pose) => Object.keys(pose.values ?? {})));
  return [...names].filter((name) =>
    laneOf(document, effects, name)?.points.some((p) => p.stamp?.startsWith(`${stamp}.`)),
  );
}

/** What opens below the edge would hide what was asked for. */
function scrolledTo(element: HTMLElement | null) {
  element?.scrollIntoView({ block: 'end' });
}
