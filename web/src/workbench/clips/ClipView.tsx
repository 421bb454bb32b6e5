import { memo, useMemo } from 'react';
import type { Clip } from '../../reel/document';
import { useSession } from '../../reel/session';
import type { Clock } from '../../time/clock';
import { useTools } from '../tools/context';
import { pressToSelect } from '../selected/pressToSelect';
import { clipsOf, useSelection } from '../selected/selection';
import { clipSpan } from './clipDrag';
import { placeIn } from '../../time/outline';
import { pitchPath, usePitch, usePitchShown } from './pitch';
import { useSeen, useShown, useShownX } from '../axis/shown';
import { slope } from '../axis/slope';
import { SpeedBadge } from './SpeedBadge';
import { TailGrip } from '../axis/TailGrip';
import { SyncBadge } from './SyncBadge';
import { useClipDrag } from './useClipDrag';
import { useSlip } from './useSlip';
import { Wave } from '../axis/Wave';
import { useWaveSize, waveGain } from '../axis/waveSize';

interface Props {
  clip: Clip;
  path: string;
  height: number;
  track: string;
}

/** Narrower clips are moved from their body's upper part alone; there is no room for handles. */
const GRIPS_FROM = 60;
const FADES_FROM = 110;
/** What fits the sound lies between what trims and what slips. */
const FITS_FROM = 140;

/** Narrower clips show their wave alone; a label of one letter says nothing. */
const NAMED_FROM = 44;

/** Narrower clips do not tell their speed. */
const BADGED_FROM = 90;

/** What a clip is called to those who hear it. */
export function clipLabel(clip: Clip, clock: Clock): string {
  const end = clock.timecode(clip.start + clip.length);
  return `Clip ${clip.name ?? ''}, ${clock.timecode(clip.start)} to ${end}`;
}

/** A strip of paper with the wave in ink; fades cut its corners. */
export const ClipView = memo(function ClipView({ clip, path, height, track }: Props) {
  const { clock, media, player, effects: tables } = useTools();
  const labels = useMemo(() => new Map(tables.map((t) => [t.id, t.label])), [tables]);
  const x = useShownX();
  const { start, scale, width } = useShown();
  const seen = useSeen();
  const chosen = useSelection((s) => clipsOf(s.selection).includes(clip.id));
  const tail = useSession((s) => s.derived?.tails[`${path}.treatment`] ?? 0);
  const speed = useSession((s) => s.derived?.speeds[clip.id]);
  const converting = useSession((s) => s.derived?.converting.includes(clip.media));
  const factor = useWaveSize((s) => s.factor);
  const large = useWaveSize((s) => s.fitted);
  const pitchShown = usePitchShown((s) => s.shown);
  const pitch = usePitch(clip.id, clip.length, chosen && pitchShown);
  const { drag: dragged, begin } = useClipDrag(track);
  const { slip, begin: beginSlip } = useSlip(clip);
  const drag = dragged?.span;
  const drawn = drag !== undefined || slip !== undefined;
  const shape = drag ?? clipSpan(clip);
  const left = x(shape.start);
  const right = x(shape.end);
  if (right + tail / scale < 0 || left > width) return null;

  // Only the part in view is drawn, with a margin for scrolling.
  // While an edge is dragged the sound inside stays where it is; while all is, it comes along.
  const moved = drag && drag.end - drag.start === clip.length;
  const inside = (moved ? drag.start : clip.start) + (slip ?? 0);
  const from = Math.max(shape.start, start - 100 * scale);
  const to = Math.min(shape.end, start + (width + 100) * scale);
  // While its length is fitted the whole sound is drawn within the new one.
  const fitted = dragged?.fit ? clip.length / (shape.end - shape.start) : 1;
  const placeAt = (sample: number) =>
    dragged?.fit
      ? placeIn(clip, speed?.outline, (sample - shape.start) * fitted)
      : placeIn(clip, speed?.outline, sample - inside);
  const medium = media.get(clip.media);
  const ready = Boolean(medium?.info.sound);
  // Waves are drawn from the medium's own samples, whatever the reel's rate.
  const own = (medium?.rate ?? clock.sampleRate) / clock.sampleRate;
  const gain = drawn
    ? waveGain(clip, speed?.outline, own, { factor, fitted: large }, () => undefined)
    : 1;
  const effects = (clip.treatment?.effects ?? []).filter((e) => !e.bypass);
  const head = shape.head / scale;
  const foot = shape.foot / scale;
  const w = right - left;
  const label = clipLabel(clip, clock);
  return (
    <>
      <div
        className="clip"
        role="button"
        tabIndex={0}
        aria-pressed={chosen}
        aria-label={label}
        title={clip.name}
        data-clip={clip.id}
        data-chosen={chosen || undefined}
        data-dragged={drawn || undefined}
        data-off={clip.enabled === false || undefined}
        style={{ left, width: Math.max(2, w), height }}
        onKeyDown={(e) => pressToSelect(e, { kind: 'clip', id: clip.id })}
        onDoubleClick={(e) => {
          const lane = e.currentTarget.closest('[data-track]')?.getBoundingClientRect();
          const laid = seen();
          const here = Math.max(0, laid.start + (e.clientX - (lane?.left ?? 0)) * laid.scale);
          player.seek(clock.sampleOfFrame(clock.frameOfSample(here)));
        }}
      >
        {!ready && <span className="clip-note">sound is being prepared or missing</span>}
        {converting && (
          <span className="clip-note">
            silent until it is converted to {clock.sampleRate / 1000} kHz
          </span>
        )}
        {drawn && ready && to > from && (
          <div className="clip-wave" style={{ left: (from - shape.start) / scale }}>
            <Wave
              media={clip.media}
              from={placeAt(from) * own}
              samples={Math.max(1, placeAt(to) - placeAt(from)) * own}
              width={(to - from) / scale}
              height={height - 2}
              gain={gain}
            />
          </div>
        )}
        {pitch && (
          <svg className="clip-pitch" width={Math.max(1, w)} height={height} aria-hidden="true">
            <path d={pitchPath(pitch, (t) => t / scale, height)} />
          </svg>
        )}
        {(head > 1 || foot > 1) && (
          <svg className="clip-fades" width={Math.max(1, w)} height={height} aria-hidden="true">
            {head > 1 && (
              <path d={`M0 0V${height}${slope(clip.fade_in, [0, height], [head, 0], true)}Z`} />
            )}
            {foot > 1 && (
              <path
                d={`M${w} 0H${w - foot}${slope(clip.fade_out, [w - foot, 0], [w, height], false)}Z`}
              />
            )}
          </svg>
        )}
        {w >= NAMED_FROM && (
          <span
            className="clip-name"
            // Beside the shield of the fade, where that shows.
            style={{ left: Math.max(6, 6 - left, head > 1 ? head + 12 : chosen ? 24 : 0) }}
          >
            {clip.name}
          </span>
        )}
        <SyncBadge clip={clip.id} room={w} />
        {w >= BADGED_FROM && <SpeedBadge clip={clip} percent={speed?.percent} />}
        <span className="clip-bar" data-grip="clip-move" onPointerDown={begin(clip, 'move')} />
        {w >= GRIPS_FROM && (
          <>
            <span
              className="grip clip-start"
              data-grip="clip-start"
              onPointerDown={begin(clip, 'start')}
            />
            <span
              className="grip clip-end"
              data-grip="clip-end"
              onPointerDown={begin(clip, 'end')}
            />
            {chosen && w >= FITS_FROM && (
              <>
                <span
                  className="grip fit-start"
                  data-grip="fit-start"
                  title="Fit: the sound fills the length, at another speed"
                  onPointerDown={begin(clip, 'start', true)}
                />
                <span
                  className="grip fit-end"
                  data-grip="fit-end"
                  title="Fit: the sound fills the length, at another speed"
                  onPointerDown={begin(clip, 'end', true)}
                />
              </>
            )}
          </>
        )}
        {chosen && w >= FADES_FROM && (
          <span
            className="grip slip"
            data-grip="slip"
            title="Slip the sound inside"
            onPointerDown={beginSlip}
          />
        )}
        {w >= FADES_FROM && (
          <>
            <span
              className="grip fade"
              data-grip="fade-in"
              style={{ left: Math.max(12, head) }}
              title="Fade in"
              onPointerDown={begin(clip, 'head')}
            />
            <span
              className="grip fade"
              data-grip="fade-out"
              style={{ left: w - Math.max(12, foot) }}
              title="Fade out"
              onPointerDown={begin(clip, 'foot')}
            />
          </>
        )}
      </div>
      {effects.length > 0 && (
        <div
          className="clip-treatment"
          style={{ left, width: Math.max(24, w), top: height + 5 }}
          aria-hidden="true"
        >
          <span className="ties" />
          <span className="name">{effects.map((e) => labels.get(e.kind) ?? '').join(', ')}</span>
        </div>
      )}
      {tail > 0 && <Contours left={right} width={tail / scale} top={height + 4} height={26} />}
      {tail > 0 && chosen && (
        <TailGrip
          owner={`clip:${clip.id}`}
          end={shape.end}
          tail={tail}
          scale={scale}
          left={right}
          top={height + 4}
          height={26}
        />
      )}
    </>
  );
});

/** The ring-out: contour lines that rise as the sound dies away. */
export function Contours(props: { left: number; width: number; top: number; height: number }) {
  const { left, width, top, height } = props;
  const visible = Math.min(width, 4000);
  return (
    <svg
      className="contours"
      style={{ left, top }}
      width={Math.max(1, visible)}
      height={height}
      aria-hidden="true"
    >
      {[0.9, 0.62, 0.36].map((depth) => (
        <path
          key={depth}
          d={`M0 ${height * depth} Q${width * 0.35} ${height * depth * 0.35} ${width * (0.4 + 0.6 * depth)} 1`}
        />
      ))}
    </svg>
  );
}
