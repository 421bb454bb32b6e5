/** Analyses that come as columns over time. */
import { useQuery } from '@tanstack/react-query';
import { useEffect, useMemo, useReducer } from 'react';
import { client, unwrap } from '../../api/client';
import { useReel } from '../../reel/useReel';
import { useSession } from '../../reel/session';
import type { Clock } from '../../time/clock';
import { useTools } from '../tools/context';
import { LOOKS } from './looks';
import { eachColumn, type Box, type KindTable } from './looks/look';
import type { Open } from './opened';
import { labelSides, paintSides, paintingOf, sidesIn, type Source } from './paint';
import type { Picture } from './picture';
import { COLUMNS, samplesOf, stepFor } from './steps';
import { columnAt, MISSING, tiles, type Strip } from './tiles';

/** What can be looked at over time. */
export function useKinds(): KindTable[] {
  const { reel } = useTools();
  const { data } = useQuery({
    queryKey: ['analysis', reel],
    queryFn: () =>
      unwrap(client.GET('/api/reels/{id}/analysis', { params: { path: { id: reel } } })),
    staleTime: Infinity,
  });
  return data ?? NONE;
}

const NONE: KindTable[] = [];
/** The threshold that says which loudness is asked for (`core/listen/findings/target.py`). */
const TARGET = 'target_lufs';

/** Columns of one side; what is not here is fetched when it is asked for. */
export function stripOf(
  from: { reel: string; revision: number; clock: Clock },
  open: Pick<Open, 'of' | 'axis' | 'sharp'>,
  kind: KindTable,
  side: 'after' | 'before',
  step: number,
): Strip {
  const { reel, revision, clock } = from;
  // How frequencies are laid out is no matter to what has none.
  const how =
    kind.id === 'spectrum'
      ? { axis: open.axis, sharp: open.sharp }
      : { axis: 'log' as const, sharp: 'both' as const };
  const wanted = { reel, of: open.of, side, kind: kind.id, ...how, step };
  return {
    each: samplesOf(step, clock.sampleRate),
    rows: (kind.rows[how.axis] ?? []).length + kind.beside.length,
    fraction: kind.fraction,
    tile: (index) => tiles.get(wanted, index, revision),
    share: (index) => tiles.share(wanted, index, revision),
  };
}

/** Drawn anew whenever tiles have come, once for each frame of the screen. */
export function useArrivals(): number {
  const [arrivals, arrived] = useReducer((n: number) => n + 1, 0);
  useEffect(() => {
    let frame = 0;
    const stop = tiles.subscribe(() => {
      if (!frame)
        frame = requestAnimationFrame(() => {
          frame = 0;
          arrived();
        });
    });
    return () => {
      stop();
      cancelAnimationFrame(frame);
    };
  }, []);
  return arrivals;
}

/** An analysis as it is drawn at a scale. */
export function useColumns(open: Open, kind: KindTable, scale: number): Picture {
  const { reel, clock } = useTools();
  const revision = useSession((s) => s.committed.revision);
  const target = useReel((d) => d.listening?.thresholds?.[TARGET]) ?? undefined;
  const arrivals = useArrivals();
  const step = stepFor(scale, clock.sampleRate, kind.finest);
  return useMemo(() => {
    const from = { reel, revision, clock };
    const look = LOOKS[kind.id]!;
    const [after, before] = (['after', 'before'] as const).map((side) =>
      sidesIn(open, look)[side] ? stripOf(from, open, kind, side, step) : undefined,
    );
    const source: Source = { kind, shown: open, after, before, target };
    const first = after ?? before;
    return {
      paint: (g, box, inks) => paintSides(g, box, inks, source),
      label: (g, box, inks) => labelSides(g, box, inks, source),
      read: (sample, share) => {
        const { painting, within } = paintingOf(source, share);
        const strip = painting.after ?? painting.before;
        const column = strip && columnAt(strip, sample);
        if (!column || column[0] === undefined) return '';
        const text = look.read(painting, column, within);
        return source.after && source.before && !look.over && open.sides === 'both'
          ? `${share >= 0.5 ? 'after' : 'before'}: ${text}`
          : text;
      },
      each: first?.each ?? 1,
      rows: (kind.rows[open.axis] ?? []).length,
      table: (box) => tableOf(box, source, open, clock),
      share: (box) => (arrivals < 0 ? 0 : shareOf(box, [after, before])),
      trouble: tiles.why({ of: open.of, kind: kind.id }),
    };
  }, [reel, revision, clock, open, kind, step, target, arrivals]);
}

/** The tiles that a box shows. */
function tilesIn(strip: Strip, { start, width, scale }: Box): number[] {
  const per = strip.each * COLUMNS;
  const first = Math.max(0, Math.floor(start / per));
  const last = Math.floor((start + width * scale) / per);
  return Array.from({ length: Math.max(0, last - first + 1) }, (_, i) => first + i);
}

function shareOf(box: Box, strips: (Strip | undefined)[]): number {
  const shares = strips.flatMap((s) => (s ? tilesIn(s, box).map((index) => s.share(index)) : []));
  return shares.length ? shares.reduce((sum, share) => sum + share, 0) / shares.length : 1;
}

/** Every column in view, side by side as it is shown. */
function tableOf(box: Box, source: Source, open: Open, clock: Clock): (string | number)[][] {
  const { kind, after, before } = source;
  const names = [...(kind.rows[open.axis] ?? []), ...kind.beside];
  const unit = typeof names[0] === 'number' && kind.id === 'spectrum' ? ' Hz' : '';
  const head = names.map((name) => (typeof name === 'number' ? `${name.toFixed(1)}${unit}` : name));
  const lines: (string | number)[][] = [['timecode', 'seconds', 'side', ...head]];
  for (const [side, strip] of [
    ['after', after],
    ['before', before],
  ] as const) {
    if (!strip) continue;
    eachColumn(strip, box, (x, column) => {
      if (x < 0 || x >= box.width || !column?.length) return;
      const sample = box.start + x * box.scale;
      const values = [...column].map((v) => (v === MISSING ? '' : v / strip.fraction));
      const seconds = (sample / clock.sampleRate).toFixed(4);
      lines.push([clock.timecode(sample), seconds, side, ...values]);
    });
  }
  return lines;
}
