import { useState, type KeyboardEvent, type PointerEvent } from 'react';
import { firstValue, type Clip } from '../../reel/document';
import { useSession } from '../../reel/session';
import { useWorkbench } from '../context';
import { usePlayer } from '../../player/player';
import { clipsOf, useSelection, withClip } from '../selection';
import { clipSpan, commandOf } from './clipDrag';
import { useReadout } from './readout';
import { snap, snapTargets } from './snap';
import { dragged, follow, readoutOf, type Span, type SpanPart } from './spanDrag';
import { SyncBadge } from './SyncBadge';
import { useView, useX } from './view';
import { Wave } from './Wave';

interface Props {
  clip: Clip;
  path: string;
  height: number;
  track: string;
}

const MOVED_PX = 4;
/** Narrower clips are moved from their body's upper part alone; there is no room for handles. */
const GRIPS_FROM = 60;
const FADES_FROM = 110;

/** Narrower clips show their wave alone; a label of one letter says nothing. */
const NAMED_FROM = 44;

/** A strip of paper with the wave in ink; fades cut its corners. */
export function ClipView({ clip, path, height, track }: Props) {
  const { clock, media, document, player } = useWorkbench();
  const x = useX();
  const { start, scale, width } = useView();
  const { selection, select } = useSelection();
  const tail = useSession((s) => s.derived?.tails[`${path}.treatment`] ?? 0);
  const edit = useSession((s) => s.edit);
  const show = useReadout((s) => s.show);
  const [drag, setDrag] = useState<Span | undefined>();
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
  const chosen = clipsOf(selection).includes(clip.id);
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
  const begin = (part: SpanPart) => (e: PointerEvent<Element>) => {
    if (e.button !== 0) return;
    e.preventDefault();
    e.stopPropagation();
    const origin = clipSpan(clip);
    const startX = e.clientX;
    const element = e.currentTarget;
    const targets = snapTargets(document, clock, usePlayer.getState().position, clip.id);
    const frame = Math.ceil(clock.sampleRate / clock.framesPerSecond);
    let latest: Span | undefined;
    let onTrack: string | undefined;
    const move = (m: globalThis.PointerEvent) => {
      const dx = m.clientX - startX;
      if (!latest && Math.abs(dx) < MOVED_PX && !(part === 'move' && trackAt(m, track))) return;
      const moved = dragged(part, origin, dx * scale, frame, (s) =>
        snap(s, targets, clock, scale, m.altKey),
      );
      latest = moved.shape;
      onTrack = part === 'move' ? trackAt(m, track) : undefined;
      setDrag(latest);
      const name = document.tracks?.find((t) => t.id === onTrack)?.name;
      const text = readoutOf(part, latest, clock, 'fade');
      show({ sample: moved.at, to: moved.to, text: name ? `${text} · to ${name}` : text });
    };
    const up = () => {
      show(undefined);
      if (!latest) {
        if (e.shiftKey) select(withClip(selection, clip.id));
        else {
          const lane = element.closest('[data-track]')?.getBoundingClientRect();
          const here = start + (startX - (lane?.left ?? 0)) * scale;
          player.seek(clock.sampleOfFrame(clock.frameOfSample(Math.max(0, here))));
          choose();
        }
        return;
      }
      if (!chosen) choose();
      const ids = chosen ? clipsOf(selection) : [clip.id];
      const command = commandOf(part, clip, ids, latest, onTrack);
      if (command) void edit(command).then(() => setDrag(undefined));
      else setDrag(undefined);
    };
    follow(e, move, up);
  };
  const label = `Clip ${clip.name ?? ''}, ${clock.timecode(clip.start)} to ${clock.timecode(clip.start + clip.length)}`;
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
            {head > 1 && <path d={`M0 0 H${head} Q${head * 0.35} ${height * 0.2} 0 ${height} Z`} />}
            {foot > 1 && (
              <path
                d={`M${w} 0 H${w - foot} Q${w - foot * 0.35} ${height * 0.2} ${w} ${height} Z`}
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

/** The track under the pointer, if it is another one. */
function trackAt(e: globalThis.PointerEvent, own: string): string | undefined {
  const found = window.document
    .elementsFromPoint(e.clientX, e.clientY)
    .find((element) => element instanceof HTMLElement && element.dataset['track']);
  const id = (found as HTMLElement | undefined)?.dataset['track'];
  return id === own ? undefined : id;
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
