import { ActionIcon, Menu, Tooltip } from '@mantine/core';
import { IconDots, IconX } from '@tabler/icons-react';
import { useEffect, useMemo, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { findChain, spanOf, type ReelDocument } from '../../reel/document';
import { reelNow, useReel } from '../../reel/useReel';
import { useSession } from '../../reel/session';
import { useReadout } from '../axis/readout';
import { Following, useShown, useShownX } from '../axis/shown';
import { useSelection } from '../selected/selection';
import { useTools } from '../tools/context';
import { inksOf } from './inks';
import type { Box, KindTable } from './looks/look';
import { useOpened, type Open } from './opened';
import { LABELS_PX } from './paint';
import type { Picture } from './picture';
import { saveImage, saveTable } from './saving';
import { useColumns, useKinds } from './useColumns';
import { useTail } from './useTail';

const HEIGHT = 110;
const LARGE = 360;
export const DECAY = 'decay';

/** Analyses that are open under a track, or of the mix. */
export function AnalysisLanes({ track }: { track: string | undefined }) {
  const open = useOpened((s) => s.open);
  const here = useReel((d) => (open.length ? ofTrack(d, open, track) : ''));
  const kinds = useKinds();
  const shown = useMemo(
    () => open.filter((one) => here.split('\n').includes(one.name)),
    [open, here],
  );
  return shown.map((one) => {
    if (one.kind === DECAY) return <TailLane key={one.name} open={one} />;
    const kind = kinds.find((k) => k.id === one.kind);
    return kind && <ColumnLane key={one.name} open={one} kind={kind} />;
  });
}

/** Names of those that belong there; what is of something that has gone belongs nowhere. */
function ofTrack(reel: ReelDocument, open: Open[], track: string | undefined): string {
  return open
    .filter(({ of }) => findChain(reel, of) && trackOfOwner(reel, of) === track)
    .map((one) => one.name)
    .join('\n');
}

function trackOfOwner(reel: ReelDocument, of: string): string | undefined {
  const [kind, id] = of.split(':');
  return (reel.tracks ?? []).find(
    (t) =>
      (kind === 'track' && t.id === id) ||
      (kind === 'clip' && (t.clips ?? []).some((c) => c.id === id)) ||
      (kind === 'treatment' && (t.treatments ?? []).some((f) => f.id === id)),
  )?.id;
}

function ColumnLane({ open, kind }: { open: Open; kind: KindTable }) {
  const { scale } = useShown();
  const picture = useColumns(open, kind, scale);
  return <Lane open={open} label={kind.label} picture={picture} />;
}

function TailLane({ open }: { open: Open }) {
  return <Lane open={open} label="Decay" picture={useTail(open)} />;
}

interface LaneProps {
  open: Open;
  label: string;
  picture: Picture;
}

function Lane({ open, label, picture }: LaneProps) {
  const { scheme } = useTools();
  const x = useShownX();
  const { start, scale, width } = useShown();
  const of = useReel((d) => findChain(d, open.of)?.name ?? '');
  const tail = useSession((s) => {
    const path = s.document && findChain(s.document, open.of)?.path;
    return path ? (s.derived?.tails[path] ?? 0) : 0;
  });
  const body = useRef<HTMLDivElement>(null);
  const frame = useRef<HTMLElement>(null);
  const [busy, setBusy] = useState(true);
  const canvas = useRef<HTMLCanvasElement>(null);
  const marks = useRef<HTMLCanvasElement>(null);
  const height = open.large ? LARGE : HEIGHT;
  const box = useMemo<Box>(
    () => ({ top: 0, width, height, start, scale }),
    [width, height, start, scale],
  );
  useEffect(() => {
    for (const [element, paint, wide] of [
      [canvas.current, picture.paint, width],
      // No larger than they must be: the playhead moves over all of it.
      [marks.current, picture.label, LABELS_PX],
    ] as const) {
      const g = element?.getContext('2d');
      if (!element || !g) continue;
      const ratio = window.devicePixelRatio || 1;
      element.width = Math.round(wide * ratio);
      element.height = Math.round(height * ratio);
      g.scale(ratio, ratio);
      paint(g, box, inksOf(element, scheme));
    }
    setBusy(!picture.ready(box));
  }, [picture, box, width, height, scheme]);
  useEffect(() => {
    if (open.large) frame.current?.scrollIntoView({ block: 'nearest' });
  }, [open.large]);
  const cursor = useCursor(picture, body, box);
  // Outside of what it is of and its tail there is something, but not of it.
  const inside = useReel((d) => insideOf(d, open, tail));
  const [from, to] = inside.split(' ').map(Number);
  return (
    <section
      className="analysis-lane"
      ref={frame}
      style={{ height }}
      aria-label={`${label} of ${of}`}
      data-analysis={open.name}
      data-busy={busy || undefined}
    >
      <LaneHead open={open} label={label} of={of} picture={picture} box={box} />
      {/* Read by keys as by the pointer: where one is, and what stands there. */}
      <div
        className="analysis-body"
        ref={body}
        role="slider"
        aria-label={`${label} of ${of}: arrow keys read its values`}
        aria-valuemin={0}
        aria-valuemax={Math.round(start + width * scale)}
        aria-valuenow={Math.round(cursor.at?.sample ?? start)}
        aria-valuetext={cursor.text || 'nothing read yet'}
        tabIndex={0}
        {...cursor.handlers}
      >
        <Following>
          <canvas ref={canvas} style={{ width, height }} aria-hidden="true" />
          {inside !== '' && (
            <>
              <span className="lane-outside" style={{ left: 0, width: Math.max(0, x(from!)) }} />
              <span className="lane-outside" style={{ left: Math.max(0, x(to!)), right: 0 }} />
            </>
          )}
          {cursor.at && (
            <span
              className="analysis-cursor"
              style={{ left: x(cursor.at.sample), top: `${100 * (1 - cursor.at.share)}%` }}
            />
          )}
        </Following>
        <canvas
          ref={marks}
          className="analysis-marks"
          style={{ width: LABELS_PX, height }}
          aria-hidden="true"
        />
        {picture.trouble && <p className="analysis-trouble small">{picture.trouble}</p>}
      </div>
    </section>
  );
}

function insideOf(reel: ReelDocument, open: Open, tail: number): string {
  if (open.range) return `${open.range.start} ${open.range.end}`;
  if (!/^(treatment|clip):/.test(open.of)) return '';
  const { start, end } = spanOf(reel, open.of);
  return `${start} ${end + tail}`;
}

interface At {
  sample: number;
  share: number;
}

/** Reading values, under the pointer or by the arrow keys. */
function useCursor(picture: Picture, body: React.RefObject<HTMLDivElement | null>, box: Box) {
  const { clock, player } = useTools();
  const show = useReadout((s) => s.show);
  const [at, setAt] = useState<At>();
  const textAt = ({ sample, share }: At) => {
    const text = picture.read(sample, share);
    return `${clock.timecode(sample)}${text && ` · ${text}`}`;
  };
  const say = (place: At) => show({ sample: place.sample, to: '', text: textAt(place) });
  const point = (e: PointerEvent): At | undefined => {
    const area = body.current?.getBoundingClientRect();
    if (!area) return undefined;
    const share = 1 - (e.clientY - area.top) / area.height;
    return {
      sample: Math.max(0, box.start + (e.clientX - area.left) * box.scale),
      share: Math.min(1, Math.max(0, share)),
    };
  };
  const handlers = {
    onPointerMove: (e: PointerEvent) => {
      const place = point(e);
      if (place && e.buttons === 0) say(place);
    },
    onPointerDown: (e: PointerEvent) => {
      const place = point(e);
      if (place && e.button === 0) player.seek(Math.round(place.sample));
    },
    onPointerLeave: () => show(undefined),
    onBlur: () => {
      setAt(undefined);
      show(undefined);
    },
    onKeyDown: (e: KeyboardEvent) => {
      const by = (e.shiftKey ? 10 : 1) * (e.key === 'ArrowLeft' || e.key === 'ArrowDown' ? -1 : 1);
      const along = e.key === 'ArrowLeft' || e.key === 'ArrowRight';
      if ((!along && e.key !== 'ArrowUp' && e.key !== 'ArrowDown') || e.ctrlKey || e.altKey) return;
      e.preventDefault();
      e.stopPropagation();
      const middle = { sample: box.start + (box.width * box.scale) / 2, share: 0.5 };
      const { sample, share } = at ?? middle;
      const step = Math.max(picture.each, box.scale);
      const next = along
        ? { sample: Math.max(0, sample + by * step), share }
        : { sample, share: Math.min(0.999, Math.max(0.001, share + by / picture.rows)) };
      setAt(next);
      say(next);
    },
  };
  return { at, text: at && textAt(at), handlers };
}

interface HeadProps extends LaneProps {
  of: string;
  box: Box;
}

function LaneHead({ open, label, of, picture, box }: HeadProps) {
  const select = useSelection((s) => s.select);
  const chosen = useSelection(
    (s) => s.selection.kind === 'analysis' && s.selection.name === open.name,
  );
  const { change, close } = useOpened.getState();
  const { scheme } = useTools();
  const file = `${reelNow().name || 'Untitled'} · ${label} of ${of}`;
  return (
    <div className="track-head lane-head" data-chosen={chosen || undefined}>
      <div className="lane-title">
        <button
          type="button"
          className="lane-name"
          title={`${label} of ${of}: how it is shown`}
          aria-label={`How the ${label.toLowerCase()} of ${of} is shown`}
          onClick={() => select({ kind: 'analysis', name: open.name })}
        >
          {label}
        </button>
        <Tooltip label="Close this analysis">
          <ActionIcon
            size={24}
            variant="subtle"
            color="gray"
            aria-label={`Close the ${label.toLowerCase()} of ${of}`}
            onClick={() => close(open.name)}
          >
            <IconX size={13} />
          </ActionIcon>
        </Tooltip>
      </div>
      <span className="name lane-of" title={of}>
        {open.range ? `range on ${of}` : of}
      </span>
      <div className="lane-foot">
        <span className="small quiet grow">
          {open.kind === DECAY ? '' : SIDE_NAMES[open.sides]}
        </span>
        <Menu position="bottom-start" width={240}>
          <Menu.Target>
            <ActionIcon
              size={24}
              variant="subtle"
              color="gray"
              aria-label={`More for the ${label.toLowerCase()} of ${of}`}
            >
              <IconDots size={15} />
            </ActionIcon>
          </Menu.Target>
          <Menu.Dropdown>
            <Menu.Item onClick={() => select({ kind: 'analysis', name: open.name })}>
              How it is shown
            </Menu.Item>
            <Menu.Item onClick={() => change(open.name, { large: !open.large })}>
              {open.large ? 'Smaller' : 'Larger'}
            </Menu.Item>
            <Menu.Divider />
            <Menu.Item
              onClick={(e) => void saveImage(file, picture, box, inksOf(e.currentTarget, scheme))}
            >
              Save the view as a picture (PNG)
            </Menu.Item>
            <Menu.Item onClick={() => void saveTable(file, picture, box)}>
              Save the view as a table (CSV)
            </Menu.Item>
          </Menu.Dropdown>
        </Menu>
      </div>
    </div>
  );
}

const SIDE_NAMES = {
  after: 'after',
  before: 'before',
  both: 'after and before',
  difference: 'after − before',
};
