import { useState, type KeyboardEvent, type PointerEvent } from 'react';
import type { Marker, MarkerKind } from '../../reel/document';
import { drag } from '../../hand/pointer';
import { useSession } from '../../reel/session';
import { useTools } from '../tools/context';
import { useReadout } from '../axis/readout';
import { snap } from '../axis/snap';
import { targetsNow } from '../axis/targets';
import { useView, useX } from '../axis/view';

/** Outlines by kind, so that colour is never the only sign. */
export const SHAPES: Record<MarkerKind, string> = {
  note: 'M1 0 V14 M1 1 L11 5 L1 9 Z',
  action: 'M1 0 V14 M1 1 H11 L8 5 L11 9 H1 Z',
  sound: 'M1 0 V14 M6 1 A4 4 0 1 1 5.9 1 Z',
  music: 'M1 0 V14 M1 1 H10 V9 H1 Z',
  problem: 'M1 0 V14 M6 1 L11 5 L6 9 L1 5 Z',
};

const MOVED_PX = 3;

/** A marker on the ruler: a click goes there, dragging moves it. */
export function MarkerFlag({ marker }: { marker: Marker }) {
  const { clock, player } = useTools();
  const edit = useSession((s) => s.edit);
  const show = useReadout((s) => s.show);
  const x = useX();
  const width = useView((v) => v.width);
  const [dragged, setDragged] = useState<number | undefined>();
  const left = x(dragged ?? marker.at);
  if (left < -200 || left > width) return null;
  const kind = marker.kind ?? 'note';

  const down = (e: PointerEvent<HTMLElement>) => {
    if (e.button !== 0) return;
    e.stopPropagation();
    const from = e.clientX;
    const { scale } = useView.getState();
    const targets = targetsNow(clock, marker.id);
    let meant = false;
    drag(e, {
      moved: (m) => {
        if (!meant && Math.abs(m.clientX - from) < MOVED_PX) return undefined;
        meant = true;
        const to = snap(marker.at + (m.clientX - from) * scale, targets, clock, scale, m.altKey);
        setDragged(to.sample);
        show({ sample: to.sample, to: to.to, text: clock.timecode(to.sample) });
        return to.sample === marker.at
          ? []
          : [{ kind: 'set_marker', id: marker.id, at: to.sample }];
      },
      clicked: () => player.seek(marker.at),
      over: () => {
        setDragged(undefined);
        show(undefined);
      },
    });
  };
  const key = (e: KeyboardEvent) => {
    if (e.key === 'Enter') player.seek(marker.at);
    else if (e.key === 'Delete' || e.key === 'Backspace')
      void edit({ kind: 'remove_marker', id: marker.id });
    else if (e.key === 'ArrowLeft' || e.key === 'ArrowRight') {
      const by = (e.key === 'ArrowLeft' ? -1 : 1) * (e.shiftKey ? 5 : 1);
      const frame = Math.max(0, clock.frameOfSample(marker.at) + by);
      void edit({ kind: 'set_marker', id: marker.id, at: clock.sampleOfFrame(frame) });
    } else return;
    e.preventDefault();
    e.stopPropagation();
  };
  return (
    <span
      className="pennant"
      role="button"
      tabIndex={0}
      data-marker={marker.id}
      data-kind={kind}
      aria-label={`Marker ${marker.label || kind}, ${clock.timecode(marker.at)}`}
      style={{ left }}
      title={marker.label || kind}
      onPointerDown={down}
      onKeyDown={key}
    >
      <svg width="12" height="14" aria-hidden="true">
        <path d={SHAPES[kind]} />
      </svg>
      {marker.label && <span className="pennant-label">{marker.label}</span>}
    </span>
  );
}
