import { ActionIcon, Button, NativeSelect } from '@mantine/core';
import { IconTrash } from '@tabler/icons-react';
import { useState } from 'react';
import { usePlayer } from '../../player/player';
import type { Keyframe } from '../../reel/document';
import { atOnce } from '../../hand/gesture';
import { WAYS } from '../keyframes/ways';
import { momentFrom } from '../../typed/moments';
import { readValue } from '../../typed/values';
import { useTools } from '../tools/context';
import { TypedField } from '../fields/TypedField';
import { formatValue } from '../values/values';
import { useSelection } from '../selected/selection';
import { laneOf, type Lane } from '../keyframes/lanes';
import { useReel } from '../../reel/useReel';

/** Rows at first; more on request, so that a recorded lane of thousands opens at once. */
const ROWS = 100;

/** The keyframes of a lane as a table: all that can be done by dragging can be typed here. */
export function LaneTable({ name }: { name: string }) {
  const { effects } = useTools();
  const document = useReel((d) => d);
  const select = useSelection((s) => s.select);
  const [rows, setRows] = useState(ROWS);
  const lane = laneOf(document, effects, name);
  if (!lane) return <p className="pad quiet">This lane is no longer there.</p>;
  const { points } = lane;
  return (
    <div className="sheet">
      <div className="sheet-head">
        <h2 className="sheet-title">
          <span>{lane.label}</span>
          <span className="quiet small">of {lane.of}</span>
        </h2>
      </div>
      <div className="sheet-body key-sheet">
        {points.length === 0 ? (
          <p className="quiet">No keyframes yet. K puts one at the playhead.</p>
        ) : (
          <table className="lane-table">
            <thead>
              <tr>
                <th scope="col">At</th>
                <th scope="col">Value</th>
                <th scope="col">To next</th>
                <th scope="col">
                  <span className="hidden-text">Remove</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {points.slice(0, rows).map((point, i) => (
                <Row key={point.at} lane={lane} point={point} number={i + 1} />
              ))}
            </tbody>
          </table>
        )}
        {points.length > rows && (
          <Button size="compact-xs" variant="subtle" onClick={() => setRows(rows + 10 * ROWS)}>
            {points.length - rows} more
          </Button>
        )}
      </div>
      <div className="sheet-foot">
        <Button
          size="compact-sm"
          variant="subtle"
          onClick={() => {
            const moment = { sample: Math.round(usePlayer.getState().position) };
            void atOnce({ kind: 'put_keyframes', keys: [{ lane: name, moment }] });
          }}
        >
          Keyframe at the playhead
        </Button>
        <Button
          size="compact-sm"
          variant="subtle"
          disabled={points.length === 0}
          onClick={() =>
            select({ kind: 'keys', keys: points.map((p) => ({ lane: name, at: p.at })) })
          }
        >
          Select all
        </Button>
      </div>
    </div>
  );
}

function Row({ lane, point, number }: { lane: Lane; point: Keyframe; number: number }) {
  const { clock, player } = useTools();
  const keys = [{ lane: lane.name, at: point.at }];
  const place = lane.origin + point.at;
  return (
    <tr>
      <td>
        <TypedField
          className="text-field"
          label={`Moment of keyframe ${number}`}
          shown={clock.timecode(Math.max(0, place))}
          read={(text) => momentFrom(clock, text, place)}
          keep={(to) => {
            player.seek(to);
            void atOnce({ kind: 'set_keyframes', keys, moment: { sample: to } });
          }}
        />
      </td>
      <td>
        <TypedField
          className="text-field"
          label={`Value of keyframe ${number}`}
          shown={formatValue(lane.parameter, point.value)}
          read={(text) => readValue({ ...lane.parameter, low: lane.lowest }, text)}
          keep={(value) => void atOnce({ kind: 'set_keyframes', keys, value })}
          heard
        />
      </td>
      <td>
        <NativeSelect
          size="xs"
          aria-label={`To next from keyframe ${number}`}
          value={point.ease ?? 'linear'}
          data={WAYS.map((way) => ({ value: way.ease, label: way.label }))}
          onChange={(e) =>
            void atOnce({ kind: 'set_keyframes', keys, ease: e.currentTarget.value })
          }
        />
      </td>
      <td>
        <ActionIcon
          size={24}
          variant="subtle"
          color="gray"
          aria-label={`Remove keyframe ${number}`}
          onClick={() => void atOnce({ kind: 'remove_keyframes', keys })}
        >
          <IconTrash size={14} />
        </ActionIcon>
      </td>
    </tr>
  );
}
