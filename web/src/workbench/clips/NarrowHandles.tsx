import { memo, useMemo } from 'react';
import type { Clip } from '../../reel/document';
import { useTools } from '../tools/context';
import { pressToSelect } from '../selected/pressToSelect';
import { clipsOf, useSelection } from '../selected/selection';
import { clipLabel } from './ClipView';
import { isNarrow } from './ClipPaper';
import { Following, useShown, type Laid } from '../axis/shown';
import { useClipDrag } from './useClipDrag';

interface Props {
  clips: Clip[];
  height: number;
  top: number;
  track: string;
}

/** Widths of the view that are laid out before and after it, so that scrolling finds them. */
const PAGES = 1;

/**
 * Places by which clips too narrow to be read are taken hold of.
 *
 * They show nothing but a frame, so being stretched a little does them no harm: they are laid out
 * anew only when the scale has doubled or halved, or when another stretch comes into view.
 */
export function NarrowHandles(props: Props) {
  const { start, scale, width } = useShown();
  const coarse = 2 ** Math.round(Math.log2(scale));
  const narrow = useNarrow(props.clips, scale);
  const page = width * coarse;
  const first = (Math.floor(start / page) - PAGES) * page;
  const laid = useMemo(() => ({ start: first, scale: coarse }), [first, coarse]);
  if (narrow.length === 0) return null;
  return (
    <Following laid={laid}>
      <Handles {...props} clips={narrow} laid={laid} until={first + (3 + 2 * PAGES) * page} />
    </Following>
  );
}

/** The narrow ones; the same list as long as it holds the same clips. */
function useNarrow(clips: Clip[], scale: number): Clip[] {
  const longest = clips.reduce(
    (most, clip) => (isNarrow(clip, scale) ? Math.max(most, clip.length) : most),
    -1,
  );
  return useMemo(() => clips.filter((clip) => clip.length <= longest), [clips, longest]);
}

const Handles = memo(function Handles(props: Props & { laid: Laid; until: number }) {
  const { clips, height, top, track, laid, until } = props;
  const { clock } = useTools();
  const { drag, begin } = useClipDrag(track);
  // Only what is selected here draws these anew.
  const chosen = useSelection((s) =>
    clipsOf(s.selection)
      .filter((id) => clips.some((clip) => clip.id === id))
      .join(' '),
  ).split(' ');
  return clips
    .filter((clip) => clip.start + clip.length > laid.start && clip.start < until)
    .map((clip) => {
      const at = drag?.id === clip.id ? drag.span.start : clip.start;
      return (
        <div
          key={clip.id}
          className="clip"
          role="button"
          tabIndex={0}
          aria-pressed={chosen.includes(clip.id)}
          aria-label={clipLabel(clip, clock)}
          title={clip.name}
          data-clip={clip.id}
          data-chosen={chosen.includes(clip.id) || undefined}
          data-narrow
          style={{
            left: (at - laid.start) / laid.scale,
            width: Math.max(2, clip.length / laid.scale),
            top,
            height,
          }}
          onKeyDown={(e) => pressToSelect(e, { kind: 'clip', id: clip.id })}
        >
          <span className="clip-bar" data-grip="clip-move" onPointerDown={begin(clip, 'move')} />
        </div>
      );
    });
});
