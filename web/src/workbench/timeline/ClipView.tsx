import { memo, type KeyboardEvent } from 'react';
import { firstValue, type Clip } from '../../reel/document';
import { useSession } from '../../reel/session';
import type { Clock } from '../../time/clock';
import { useTools } from '../context';
import { clipsOf, useSelection } from '../selection';
import { clipSpan } from './clipDrag';
import { NARROW_PX } from './NarrowClips';
import { useShown, useShownX } from './shown';
import { slope } from './slope';
import { SyncBadge } from './SyncBadge';
import { useClipDrag } from './useClipDrag';
import { Wave } from './Wave';

interface Props {
  clip: Clip;
  path: string;
  height: number;
  track: string;
}

/** Narrower clips are moved from their body's upper part alone; there is no room for handles. */
const GRIPS_FROM = 60;
const FADES_FROM = 110;
const MARGIN_PX = 20;

/** Narrower clips show their wave alone; a label of one letter says nothing. */
const NAMED_FROM = 44;

/** A strip of paper with the wave in ink; fades cut its corners. */
export const ClipView = memo(function ClipView(props: Props) {
  const { start, scale, width } = useShown();
  const { clip } = props;
  const left = (clip.start - start) / scale;
  const w = clip.length / scale;
  if (w >= NARROW_PX) return <WideClip {...props} />;
  if (left + w < -MARGIN_PX || left > width + MARGIN_PX) return null;
  return <NarrowClip {...props} left={left} w={w} />;
});

/** What is left of a clip that is too narrow to be read: a place that can be taken hold of. */
function NarrowClip(props: Props & { left: number; w: number }) {
  const { clip, height, track, left, w } = props;
  const { clock } = useTools();
  const { scale } = useShown();
  const { drag, begin } = useClipDrag(clip, track);
  const chosen = useSelection((s) => clipsOf(s.selection).includes(clip.id));
  const ringing = useSession((s) => s.derived?.tails[`${props.path}.treatment`] ?? 0);
  const shift = drag ? (drag.start - clip.start) / scale : 0;
  return (
    <>
      <div
        className="clip"
        role="button"
        tabIndex={0}
        aria-pressed={chosen}
        aria-label={labelOf(clip, clock)}
        title={clip.name}
        data-clip={clip.id}
        data-chosen={chosen || undefined}
        data-narrow
        style={{ left: left + shift, width: Math.max(2, w), height }}
        onKeyDown={(e) => {
          if (e.key !== 'Enter' || e.shiftKey) return;
          e.preventDefault();
          useSelection.getState().select({ kind: 'clip', id: clip.id });
        }}
      >
        <span className="clip-bar" data-grip="clip-move" onPointerDown={begin('move')} />
      </div>
      {clip.treatment?.effects?.some((e) => !e.bypass) && (
        <div
          className="clip-treatment"
          style={{ left, width: Math.max(24, w), top: height + 5 }}
          aria-hidden="true"
        >
          <span className="ties" />
        </div>
      )}
      {ringing > 0 && (
        <Contours left={left + w} width={ringing / scale} top={height + 4} height={26} />
      )}
    </>
  );
}

function labelOf(clip: Clip, clock: Clock): string {
  const end = clock.timecode(clip.start + clip.length);
  return `Clip ${clip.name ?? ''}, ${clock.timecode(clip.start)} to ${end}`;
}

function WideClip({ clip, path, height, track }: Props) {
  const { clock, media } = useTools();
  const x = useShownX();
  const { start, scale, width } = useShown();
  const select = useSelection((s) => s.select);
  const chosen = useSelection((s) => clipsOf(s.selection).includes(clip.id));
  const tail = useSession((s) => s.derived?.tails[`${path}.treatment`] ?? 0);
  const { drag, begin } = useClipDrag(clip, track);
  const shape = drag ?? clipSpan(clip);
  const left = x(shape.start);
  const right = x(shape.end);
  if (right + tail / scale < 0 || left > width) return null;

  // Only the part in view is drawn, with a margin for scrolling.
  // While an edge is dragged the sound inside stays where it is; while all is, it comes along.
  const inside = drag && drag.end - drag.start === clip.length ? drag.start : clip.start;
  const from = Math.max(shape.start, start - 100 * scale);
  const to = Math.min(shape.end, start + (width + 100) * scale);
  const gain = 10 ** (firstValue(clip.gain_db, 0) / 20);
  const ready = Boolean(media.get(clip.media)?.info.sound);
  const effects = (clip.treatment?.effects ?? []).filter((e) => !e.bypass);
  const head = shape.head / scale;
  const foot = shape.foot / scale;
  const w = right - left;
  const choose = () => select({ kind: 'clip', id: clip.id });
  const key = (e: KeyboardEvent) => {
    if (e.key === 'Enter' && !e.shiftKey) {
      e.preventDefault();
      choose();
    }
  };
  const label = labelOf(clip, clock);
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
        data-off={clip.enabled === false || undefined}
        style={{ left, width: Math.max(2, w), height }}
        onKeyDown={key}
      >
        {ready && to > from ? (
          <div className="clip-wave" style={{ left: (from - shape.start) / scale }}>
            <Wave
              media={clip.media}
              from={(clip.source_start ?? 0) + from - inside}
              samples={to - from}
              width={(to - from) / scale}
              height={height - 2}
              gain={gain}
            />
          </div>
        ) : (
          <span className="clip-note">{ready ? '' : 'sound is being prepared or missing'}</span>
        )}
        {(head > 1 || foot > 1) && (
          <svg className="clip-fades" width={Math.max(1, w)} height={height} aria-hidden="true">
            {head > 1 && (
              <path
                d={`M0 0V${height}${slope(clip.fade_in?.shape, [0, height], [head, 0], true)}Z`}
              />
            )}
            {foot > 1 && (
              <path
                d={`M${w} 0H${w - foot}${slope(clip.fade_out?.shape, [w - foot, 0], [w, height], false)}Z`}
              />
            )}
          </svg>
        )}
        {w >= NAMED_FROM && (
          <span
            className="clip-name"
            style={{ left: Math.max(6, 6 - left, head > 1 ? head + 12 : 0) }}
          >
            {clip.name}
          </span>
        )}
        <SyncBadge clip={clip.id} room={w} />
        <span className="clip-bar" data-grip="clip-move" onPointerDown={begin('move')} />
        {w >= GRIPS_FROM && (
          <>
            <span
              className="grip clip-start"
              data-grip="clip-start"
              onPointerDown={begin('start')}
            />
            <span className="grip clip-end" data-grip="clip-end" onPointerDown={begin('end')} />
          </>
        )}
        {w >= FADES_FROM && (
          <>
            <span
              className="grip fade"
              data-grip="fade-in"
              style={{ left: Math.max(12, head) }}
              title="Fade in"
              onPointerDown={begin('head')}
            />
            <span
              className="grip fade"
              data-grip="fade-out"
              style={{ left: w - Math.max(12, foot) }}
              title="Fade out"
              onPointerDown={begin('foot')}
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
          <span className="name">{effects.map((e) => e.kind).join(', ')}</span>
        </div>
      )}
      {tail > 0 && <Contours left={right} width={tail / scale} top={height + 4} height={26} />}
    </>
  );
}

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
