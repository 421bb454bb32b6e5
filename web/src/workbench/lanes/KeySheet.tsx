import { Button, Menu, Tooltip } from '@mantine/core';
import type { Keyframe } from '../../reel/document';
import { momentFrom } from '../../typed/moments';
import { readValue } from '../../typed/values';
import { useTools } from '../tools/context';
import { Handle } from '../fields/Handle';
import { TypedField } from '../fields/TypedField';
import { formatValue } from '../values/values';
import { keysOf, useSelection, type Selection } from '../selected/selection';
import { KeyOf } from '../keys/KeyOf';
import { WayLine, WAYS } from '../keyframes/ways';
import { useKeyEdits } from '../keyframes/keyEdits';
import { laneOf, type Lane } from '../keyframes/lanes';
import { useReel } from '../../reel/useReel';

/** What is selected of keyframes: where, how much, and how each goes on to the next. */
export function KeySheet() {
  const { effects, clock } = useTools();
  const document = useReel((d) => d);
  const selection = useSelection((s) => s.selection);
  const select = useSelection((s) => s.select);
  const edits = useKeyEdits();
  const keys = keysOf(selection);
  const found = keys.flatMap((k) => {
    const lane = laneOf(document, effects, k.lane);
    const point = lane?.points.find((p) => p.at === k.at);
    return lane && point ? [{ lane, point }] : [];
  });
  const first = found[0];
  if (!first) return <p className="pad quiet">These keyframes are no longer there.</p>;
  const lanes = [...new Set(found.map((f) => f.lane.name))];
  const same = <T,>(of: (f: { lane: Lane; point: Keyframe }) => T): T | undefined =>
    found.every((f) => of(f) === of(first)) ? of(first) : undefined;
  const value = lanes.length === 1 ? same((f) => f.point.value) : undefined;
  const ease = same((f) => f.point.ease ?? 'linear');
  const places = found.map((f) => f.lane.origin + f.point.at);
  const earliest = Math.min(...places);
  const linked = found.some((f) => f.point.stamp ?? f.point.pose);
  const pose = document.poses?.find((p) => p.id === first.point.pose);
  const moment = (to: number) => {
    void edits.set({ moment: { sample: to } }).then((done) => {
      if (!done) return;
      select({
        kind: 'keys',
        keys: keys.map((k) => ({ ...k, at: k.at + to - earliest })),
      });
    });
  };
  return (
    <div className="sheet">
      <div className="sheet-head">
        <h2 className="sheet-title">
          <span>{found.length === 1 ? 'Keyframe' : `${found.length} keyframes`}</span>
          <span className="quiet small">
            {lanes.length === 1
              ? `${first.lane.label} of ${first.lane.of}`
              : `${lanes.length} lanes`}
          </span>
        </h2>
      </div>
      <div className="sheet-body key-sheet">
        <div className="clip-row">
          <label className="frame-field">
            {found.length === 1 ? 'At' : 'From'}
            <TypedField
              className="text-field"
              label="Moment of the keyframe"
              shown={clock.timecode(Math.max(0, earliest))}
              placeholder="timecode"
              read={(text) => momentFrom(clock, text, earliest)}
              keep={moment}
              heard
            />
          </label>
          {lanes.length === 1 && (
            <label className="frame-field">
              Value
              <TypedField
                className="text-field"
                label="Value of the keyframe"
                shown={value === undefined ? '' : formatValue(first.lane.parameter, value)}
                placeholder="several"
                read={(text) =>
                  readValue({ ...first.lane.parameter, low: first.lane.lowest }, text)
                }
                keep={(v) => void edits.set({ value: v })}
                heard
              />
            </label>
          )}
        </div>
        <p className="quiet small">To next</p>
        <div className="ways" role="group" aria-label="To the next keyframe">
          {WAYS.map((way) => (
            <Tooltip key={way.ease} label={way.help}>
              <button
                type="button"
                className="way"
                aria-pressed={ease === way.ease}
                onClick={() => void edits.set({ ease: way.ease })}
              >
                <WayLine line={way.line} />
                {way.label}
              </button>
            </Tooltip>
          ))}
        </div>
        {ease === 'bend' && (
          <>
            <Handle
              label="Bend"
              help="Left: arrives early. Right: arrives late."
              low={-1}
              value={first.point.bend ?? 0}
              edits={(bend) => [{ kind: 'set_keyframes', keys, bend }]}
            />
            <Handle
              label="Softness"
              help="How soft both ends are."
              low={0}
              value={first.point.soft ?? 0}
              edits={(soft) => [{ kind: 'set_keyframes', keys, soft }]}
            />
          </>
        )}
        {linked && (
          <p className="sync-line">
            <span>{pose ? `Stamped with “${pose.name}”` : 'Moves with its column'}</span>
            <Button
              size="compact-xs"
              variant="default"
              onClick={() => void edits.change('unlink_keyframes')}
            >
              Unlink
            </Button>
          </p>
        )}
        {found.length > 1 && <Scaling />}
      </div>
      <div className="sheet-foot">
        <Button
          size="compact-sm"
          variant="subtle"
          onClick={() => void edits.change('soften_keyframes', { by: 1 })}
        >
          Soften
        </Button>
        <Button
          size="compact-sm"
          variant="subtle"
          onClick={() => void edits.change('soften_keyframes', { by: -1 })}
        >
          Sharpen
        </Button>
        <Menu position="top-start">
          <Menu.Target>
            <Button size="compact-sm" variant="subtle">
              More ▾
            </Button>
          </Menu.Target>
          <Menu.Dropdown>
            <Menu.Item onClick={edits.all}>
              Select all of {lanes.length > 1 ? 'these lanes' : 'the lane'}
            </Menu.Item>
            <Menu.Item rightSection={<KeyOf command="copy" />} onClick={edits.copy}>
              Copy
            </Menu.Item>
            <Menu.Item
              disabled={found.length < 2}
              onClick={() => void edits.change('reverse_keyframes')}
            >
              Reverse in time
            </Menu.Item>
            <Menu.Item
              disabled={found.length < 3}
              onClick={() =>
                void edits.change('thin_keyframes').then((done) => done && select({ kind: 'none' }))
              }
            >
              Thin out
            </Menu.Item>
            <Menu.Divider />
            <Menu.Item onClick={() => select(ownerSelection(first.lane.owner))}>
              Go to {first.lane.of}
            </Menu.Item>
          </Menu.Dropdown>
        </Menu>
        <Button
          size="compact-sm"
          variant="subtle"
          className="remove"
          onClick={() => edits.remove()}
        >
          Remove
        </Button>
      </div>
    </div>
  );
}

function ownerSelection(owner: string): Selection {
  const [kind, id = ''] = owner.split(':');
  if (kind === 'treatment' || kind === 'clip' || kind === 'track') return { kind, id };
  return { kind: 'mix' };
}

const SHARE = {
  unit: '%',
  low: -100000,
  high: 100000,
  scale: 'linear',
  default: 100,
  whole: false,
};

/** Stretching a group in time, scaling it in value. */
function Scaling() {
  const edits = useKeyEdits();
  const select = useSelection((s) => s.select);
  return (
    <div className="clip-row">
      <label className="frame-field">
        Time ×
        <TypedField
          className="text-field"
          label="Stretch in time, percent"
          shown="100 %"
          read={(text) => readValue({ ...SHARE, label: 'the stretch in time', low: 0.1 }, text)}
          keep={(percent) =>
            void edits
              .change('scale_keyframes', { time: percent / 100 })
              .then((done) => done && select({ kind: 'none' }))
          }
        />
      </label>
      <label className="frame-field">
        Value ×
        <TypedField
          className="text-field"
          label="Scale in value, percent"
          shown="100 %"
          read={(text) => readValue({ ...SHARE, label: 'the scale in value' }, text)}
          keep={(percent) => void edits.change('scale_keyframes', { value: percent / 100 })}
        />
      </label>
    </div>
  );
}
