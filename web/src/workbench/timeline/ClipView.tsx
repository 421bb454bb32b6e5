import type { KeyboardEvent } from 'react';
import { firstValue, type Clip } from '../../reel/document';
import { useSession } from '../../reel/session';
import { useWorkbench } from '../context';
import { useSelection } from '../selection';
import { useView, useX } from './view';
import { Wave } from './Wave';

interface Props {
  clip: Clip;
  path: string;
  height: number;
}

/** Narrower clips show their wave alone; a label of one letter says nothing. */
const NAMED_FROM = 44;

/** A strip of paper with the wave in ink; fades cut its corners. */
export function ClipView({ clip, path, height }: Props) {
  const { clock, media } = useWorkbench();
  const x = useX();
  const { start, scale, width } = useView();
  const { selection, select } = useSelection();
  const tail = useSession((s) => s.derived?.tails[`${path}.treatment`] ?? 0);
  const left = x(clip.start);
  const right = x(clip.start + clip.length);
  if (right + tail / scale < 0 || left > width) return null;

  // Only the part in view is drawn, with a margin for scrolling.
  const from = Math.max(clip.start, start - 100 * scale);
  const to = Math.min(clip.start + clip.length, start + (width + 100) * scale);
  const gain = 10 ** (firstValue(clip.gain_db, 0) / 20);
  const ready = Boolean(media.get(clip.media)?.info.sound);
  const chosen = selection.kind === 'clip' && selection.id === clip.id;
  const effects = (clip.treatment?.effects ?? []).filter((e) => !e.bypass);
  const head = (clip.fade_in?.length ?? 0) / scale;
  const foot = (clip.fade_out?.length ?? 0) / scale;
  const w = right - left;
  const choose = () => select({ kind: 'clip', id: clip.id });
  const key = (e: KeyboardEvent) => {
    if (e.key === 'Enter') {
      e.preventDefault();
      choose();
    }
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
          <div className="clip-wave" style={{ left: (from - clip.start) / scale }}>
            <Wave
              media={clip.media}
              from={(clip.source_start ?? 0) + from - clip.start}
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
          <span className="clip-name" style={{ left: Math.max(6, 6 - left) }}>
            {clip.name}
          </span>
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
