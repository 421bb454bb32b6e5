import { Button, Modal } from '@mantine/core';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import {
  useCallback,
  useEffect,
  useRef,
  useState,
  type KeyboardEvent,
  type PointerEvent,
} from 'react';
import { client, unwrap } from '../../api/client';
import { usePlayer } from '../../player/player';
import { findChain, spanOf } from '../../reel/document';
import { useReel } from '../../reel/useReel';
import { useSession } from '../../reel/session';
import { useTools } from '../tools/context';
import { useView } from '../axis/view';
import { inksOf } from './inks';
import { hzText } from './looks/spectrum';
import type { KindTable } from './looks/look';
import { figure } from '../values/values';
import type { Open } from './opened';
import { paintNow, paintStill, sized, type Curves } from './paintSpectrum';
import { stripOf, useArrivals, useKinds } from './useColumns';
import { columnAt, valueOf } from './tiles';

const HEIGHT = 170;
const LARGE = 460;
/** Fifty columns a second: what stands at the playhead is no older than a frame. */
const FINE = 1;
/** Between two looks at what moves: the eye follows no more of a spectrum. */
const MOVING_MS = 66;
const REST_MS = 400;
const AGAIN_MS = 300;
const KEPT_MS = 60_000;

/** The spectrum at the playhead, and the mean of the stretch: after and before. */
export function SpectrumDrawing({ open }: { open: Open }) {
  const [large, setLarge] = useState(false);
  return (
    <>
      <Drawing open={open} height={HEIGHT} />
      <Button size="compact-sm" variant="subtle" onClick={() => setLarge(true)}>
        Show the spectrum large
      </Button>
      <Modal opened={large} onClose={() => setLarge(false)} size="90%" title="Spectrum" returnFocus>
        {large && <Drawing open={open} height={LARGE} />}
      </Modal>
    </>
  );
}

const NO_ROWS: number[] = [];

function Drawing({ open, height }: { open: Open; height: number }) {
  const { scheme } = useTools();
  const kind = useKinds().find((k) => k.id === 'spectrum');
  const canvas = useRef<HTMLCanvasElement>(null);
  const moving = useRef<HTMLCanvasElement>(null);
  const [width, setWidth] = useState(0);
  const [row, setRow] = useState<number>();
  const average = useAverage(open);
  const rows = (kind?.rows['log'] ?? NO_ROWS) as number[];
  const now = useColumnNow(open, kind);
  const curves = useCallback(
    (): Curves => ({
      rows,
      now: now(),
      after: average.data?.after ?? [],
      before: average.data?.before ?? [],
    }),
    [rows, now, average.data],
  );
  // What stands still is painted once, what moves with the playhead on a canvas of its own.
  useEffect(() => {
    const g = sized(canvas.current, width, height);
    if (g) paintStill(g, width, height, inksOf(g.canvas, scheme), curves(), row);
  }, [width, height, scheme, curves, row]);
  useEffect(() => {
    const g = sized(moving.current, width, height);
    if (!g) return undefined;
    const { main } = inksOf(g.canvas, scheme);
    let last = -Infinity;
    const draw = () => {
      last = performance.now();
      g.clearRect(0, 0, width, height);
      paintNow(g, width, height, main, now());
    };
    draw();
    return usePlayer.subscribe((state, before) => {
      if (state.position === before.position) return;
      if (performance.now() - last >= MOVING_MS || !state.playing) draw();
    });
  }, [width, height, scheme, now]);
  useEffect(() => {
    const element = canvas.current!;
    const watch = new ResizeObserver(([entry]) => setWidth(Math.floor(entry!.contentRect.width)));
    watch.observe(element);
    return () => watch.disconnect();
  }, []);
  const count = rows.length;
  const move = (e: PointerEvent) => {
    const area = canvas.current!.getBoundingClientRect();
    setRow(Math.min(count - 1, Math.floor(((e.clientX - area.left) / area.width) * count)));
  };
  const key = (e: KeyboardEvent) => {
    if (e.key !== 'ArrowLeft' && e.key !== 'ArrowRight') return;
    e.preventDefault();
    e.stopPropagation();
    const by = (e.key === 'ArrowLeft' ? -1 : 1) * (e.shiftKey ? 10 : 1);
    setRow(Math.min(count - 1, Math.max(0, (row ?? Math.floor(count / 2)) + by)));
  };
  const seen = row === undefined ? undefined : curves();
  const said =
    seen && row !== undefined && rows[row] !== undefined
      ? `${hzText(rows[row])}: now ${figure(seen.now[row])} dB · mean ${figure(seen.after[row])} dB · before ${figure(seen.before[row])} dB`
      : '';
  return (
    <figure className="spectrum-drawing">
      <div
        role="slider"
        tabIndex={0}
        aria-label="Spectrum: arrow keys read its values"
        aria-valuemin={0}
        aria-valuemax={Math.max(0, count - 1)}
        aria-valuenow={row ?? 0}
        aria-valuetext={said || 'no value read yet'}
        onPointerMove={move}
        onPointerLeave={() => setRow(undefined)}
        onBlur={() => setRow(undefined)}
        onKeyDown={key}
      >
        <canvas ref={canvas} style={{ width: '100%', height }} aria-hidden="true" />
        <canvas ref={moving} style={{ width, height }} aria-hidden="true" />
      </div>
      <figcaption className="small">
        {said || (
          <>
            <span className="key now" /> at the playhead <span className="key after" /> mean{' '}
            <span className="key before" /> mean before
          </>
        )}
      </figcaption>
      {average.error && <p className="small quiet">{average.error.message}</p>}
    </figure>
  );
}

/** The levels of the column that the playhead is in, as far as they are known. */
function useColumnNow(open: Open, kind: KindTable | undefined) {
  const { reel, clock } = useTools();
  const revision = useSession((s) => s.committed.revision);
  const arrivals = useArrivals();
  const last = useRef<(number | undefined)[]>([]);
  return useCallback(() => {
    if (!kind || arrivals < 0) return [];
    const side = open.sides === 'before' ? 'before' : 'after';
    const how = { ...open, axis: 'log' as const, sharp: 'both' as const };
    const strip = stripOf({ reel, revision, clock }, how, kind, side, FINE);
    const position = usePlayer.getState().position;
    const column = columnAt(strip, position);
    // What comes next is fetched before it is needed.
    if (usePlayer.getState().playing) columnAt(strip, position + clock.sampleRate);
    if (column?.length) last.current = [...column].map((_, i) => valueOf(strip, column, i));
    return last.current;
  }, [kind, open, reel, revision, clock, arrivals]);
}

/** Over its own stretch, or over what is in view. */
function useAverage(open: Open) {
  const { reel } = useTools();
  const revision = useSession((s) => s.committed.revision);
  const own = useReel((d) => {
    if (open.range) return `${open.range.start}-${open.range.end}`;
    if (!/^(clip|treatment):/.test(open.of) || !findChain(d, open.of)) return '';
    const { start, end } = spanOf(d, open.of);
    return `${Math.max(0, start)}-${end}`;
  });
  const inView = useRested(
    useView(
      (v) =>
        `${Math.round(v.start)}-${Math.round(Math.min(v.length, v.start + v.scale * v.width))}`,
    ),
  );
  const [start, stop] = (own || inView).split('-').map(Number) as [number, number];
  return useQuery({
    queryKey: ['average', reel, open.of, start, stop, revision],
    queryFn: () =>
      unwrap(
        client.GET('/api/reels/{id}/analysis/average', {
          params: { path: { id: reel }, query: { of: open.of, start, stop } },
        }),
      ),
    // What takes longer is gone on with when it is asked for again.
    refetchInterval: (query) => (query.state.data && query.state.data.share < 1 ? AGAIN_MS : false),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    gcTime: KEPT_MS,
    retry: false,
  });
}

/** A value that has not changed for a while. */
function useRested(value: string): string {
  const [rested, setRested] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setRested(value), REST_MS);
    return () => clearTimeout(timer);
  }, [value]);
  return rested;
}
