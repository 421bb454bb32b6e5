import { Button, SegmentedControl, Switch } from '@mantine/core';
import { IconChevronRight } from '@tabler/icons-react';
import { useState } from 'react';
import type { Clip, Movable } from '../../reel/document';
import { atOnce } from '../../hand/gesture';
import { useSession } from '../../reel/session';
import { lengthFrom } from '../../typed/moments';
import { useTools } from '../tools/context';
import { CENTS, FORMANTS, SEMITONES, SPEED } from '../keyframes/lanes';
import { clipsOf, isSelected, useSelection } from '../selected/selection';
import { usePitch, usePitchShown } from './pitch';
import { Control } from '../fields/Control';
import { TypedField } from '../fields/TypedField';
import { formatSigned } from '../values/values';

/** The speed as a control: on a scale on which twice and half are as far away from 100 %. */
const STEADY = { ...SPEED, low: 10, scale: 'log' as const };

/** Speed and pitch of a clip: typed, dragged, or fitted to a length, a gap or a cut. */
export function SpeedFields({ clip }: { clip: Clip }) {
  const { clock } = useTools();
  const facts = useSession((s) => s.derived?.speeds[clip.id]);
  const selection = useSelection((s) => s.selection);
  const [ripple, setRipple] = useState(false);
  const speed = clip.speed ?? {};
  const changed = facts !== undefined || Boolean(speed.semitones ?? speed.cents);
  const [open, setOpen] = useState(changed);
  const id = clip.id;
  const { shown: pitchShown, show: showPitch } = usePitchShown();
  const pitch = usePitch(id, clip.length, open && pitchShown);
  const ids = isSelected(selection, { kind: 'clip', id }) ? clipsOf(selection) : [id];
  const set = (values: object) => ({ kind: 'set_speed', ids, ...values }) as const;
  const fit = (to: object) => void atOnce({ kind: 'fit_clip', id, ripple, ...to });
  const moving = typeof speed.percent === 'object';
  const seconds = clip.length / clock.sampleRate;
  const frames = clock.frameOfSample(clip.start + clip.length) - clock.frameOfSample(clip.start);
  const shift = (parameter: typeof SEMITONES, key: 'semitones' | 'cents' | 'formant_shift') => (
    <Control
      parameter={parameter}
      value={speed[key] ?? 0}
      reset={() => void atOnce(set({ [key]: 0 }))}
      edits={(v) => [set({ [key]: v })]}
      lane={`clip:${id}/${key}`}
    />
  );
  const undo = (semitones: number) => void atOnce(set({ semitones, cents: 0 }));
  return (
    <section className="speed-fields" aria-label="Speed and pitch">
      <button
        type="button"
        className="effect-name speed-head"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
      >
        <span>
          <IconChevronRight size={14} data-open={open || undefined} aria-hidden="true" /> Speed and
          pitch
        </span>
        <span className="number small">{summary(speed, facts)}</span>
      </button>
      {open && (
        <>
          <Control
            parameter={moving ? SPEED : STEADY}
            value={speed.percent ?? 100}
            reset={() => void atOnce({ kind: 'reset_speed', ids, ripple })}
            edits={(v) => [set({ percent: v, ripple })]}
            lane={`clip:${id}/percent`}
          />
          <div className="clip-row">
            <label
              className="frame-field"
              title="Type 10 s, 250 f, 85 % or a timecode: the sound is played faster or slower to fit."
            >
              Duration
              <TypedField
                className="text-field"
                label="Duration, by speed"
                shown={`${seconds.toFixed(2)} s · ${frames} f`}
                read={(text) => lengthFrom(clock, text, clip.start, clip.length)}
                keep={(length) => fit({ length })}
                heard
              />
            </label>
            <Switch
              size="xs"
              label="Ripple"
              title="What follows on the track moves with the clip's end"
              checked={ripple}
              onChange={(e) => setRipple(e.currentTarget.checked)}
            />
          </div>
          <div className="clip-row speed-fits">
            <span className="control-label">Fit to</span>
            <Button size="compact-xs" variant="default" onClick={() => fit({ until: 'cut' })}>
              next cut
            </Button>
            <Button size="compact-xs" variant="default" onClick={() => fit({ until: 'gap' })}>
              next clip
            </Button>
          </div>
          <div className="clip-row speed-fits">
            <span className="control-label">Reset</span>
            <Button
              size="compact-xs"
              variant="default"
              aria-label="Reset speed"
              disabled={speed.percent === undefined}
              onClick={() => void atOnce({ kind: 'reset_speed', ids, ripple })}
            >
              Speed
            </Button>
            <Button
              size="compact-xs"
              variant="default"
              aria-label="Reset: speed and pitch"
              disabled={Object.keys(speed).length === 0}
              onClick={() => void atOnce({ kind: 'reset_speed', ids, all: true, ripple })}
            >
              Speed and pitch
            </Button>
          </div>
          <Pair
            label="Pitch"
            value={speed.pitch ?? 'hold'}
            data={{ hold: 'Keep', follow: 'Change with speed' }}
            save={(pitch) => void atOnce(set({ pitch }))}
          />
          {facts && (
            <p className="quiet small speed-facts">
              {facts.moves ? 'On average ' : ''}
              {Number(facts.percent.toFixed(2))} % shifts the pitch by{' '}
              <span className="number">{formatSigned(facts.shift)} st</span>
              {speed.pitch === 'follow' ? '. ' : ' if it changes with speed. '}
              Plays {(facts.source_samples / clock.sampleRate).toFixed(2)} s of its sound.{' '}
              {facts.advice && <strong>{facts.advice}</strong>}
            </p>
          )}
          {facts && !facts.moves && speed.pitch === 'follow' && (
            <div className="clip-row speed-fits">
              <span className="control-label">Undo it</span>
              <Button size="compact-xs" variant="default" onClick={() => undo(facts.exact)}>
                exactly, {formatSigned(facts.exact)} st
              </Button>
              {facts.by_ear !== null && (
                <Button
                  size="compact-xs"
                  variant="default"
                  title="What ears commonly choose"
                  onClick={() => undo(facts.by_ear!)}
                >
                  by ear, {formatSigned(facts.by_ear)} st
                </Button>
              )}
            </div>
          )}
          <div className="clip-row">
            <Switch
              size="xs"
              label="Show pitch"
              checked={pitchShown}
              onChange={(e) => showPitch(e.currentTarget.checked)}
            />
            {pitch && (
              <span className="number small">
                {pitch.median ? `${pitch.median}, ${pitch.low} to ${pitch.high}` : 'no pitch'}
              </span>
            )}
          </div>
          {pitch?.key && (
            <p className="quiet small speed-facts">Its notes fit best into {pitch.key}.</p>
          )}
          {shift(SEMITONES, 'semitones')}
          {shift(CENTS, 'cents')}
          <Pair
            label="Formants"
            value={speed.formants ?? 'hold'}
            data={{ hold: 'Keep', follow: 'Change with pitch' }}
            save={(formants) => void atOnce(set({ formants }))}
          />
          {shift(FORMANTS, 'formant_shift')}
          <Pair
            label="Material"
            value={speed.material ?? 'voice'}
            data={{ voice: 'Voice', music: 'Music or other' }}
            save={(material) => void atOnce(set({ material }))}
          />
        </>
      )}
    </section>
  );
}

function Pair(props: {
  label: string;
  value: string;
  data: Record<string, string>;
  save: (value: string) => void;
}) {
  return (
    <div className="control choice">
      <span className="control-label">{props.label}</span>
      <SegmentedControl
        size="xs"
        aria-label={props.label}
        data={Object.entries(props.data).map(([value, label]) => ({ value, label }))}
        value={props.value}
        onChange={props.save}
      />
    </div>
  );
}

/** Speed and pitch as they are heard: a pitch that changes with the speed counts. */
function summary(
  speed: { semitones?: Movable; cents?: Movable; pitch?: string },
  facts: { percent: number; shift: number } | undefined,
) {
  const { semitones = 0, cents = 0 } = speed;
  const followed = speed.pitch === 'follow' ? (facts?.shift ?? 0) : 0;
  const moves = typeof semitones !== 'number' || typeof cents !== 'number';
  const shift = moves ? 'pitch moves' : `${formatSigned(semitones + cents / 100 + followed)} st`;
  return `${Number((facts?.percent ?? 100).toFixed(2))} % · ${shift.replace('+0 st', '0 st')}`;
}
