/** How a tail decays, octave by octave, at its place in the reel. */
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { client, unwrap, type Schemas } from '../../api/client';
import { useSession } from '../../reel/session';
import { useTools } from '../tools/context';
import { cssOf, octaveColour } from './colours';
import type { Box, Inks } from './looks/look';
import { figure } from '../values/values';
import { hzText } from './looks/spectrum';
import type { Open } from './opened';
import { write } from './paint';
import type { Picture } from './picture';

export type Tail = Schemas['Tail'];
type Band = Tail['bands'][number];

const LOWEST_DB = -70;
const MARKED = [-10, -20, -30, -40, -50, -60];
const KEPT_MS = 60_000;

const share = (db: number) => 1 - db / LOWEST_DB;

/** What rings on past a clip or a treatment, or a range in which a sound dies away. */
export function useTailOf(open: Pick<Open, 'of' | 'range'>, wanted = true) {
  const { reel } = useTools();
  const revision = useSession((s) => s.committed.revision);
  const { of, range } = open;
  const query = { of, ...(range && { start: range.start, stop: range.end }) };
  return useQuery({
    queryKey: ['tail', reel, query, revision],
    queryFn: () =>
      unwrap(
        client.GET('/api/reels/{id}/analysis/tail', { params: { path: { id: reel }, query } }),
      ),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    gcTime: KEPT_MS,
    retry: false,
    enabled: wanted,
  });
}

export function useTail(open: Open): Picture {
  const { clock } = useTools();
  const { data, error, isFetching } = useTailOf(open);
  return useMemo(
    () => ({
      paint: (g, box, inks) => paint(g, box, inks, data),
      label,
      read: (sample, at) => {
        const level = LOWEST_DB * (1 - at);
        const band = nearest(data, sample, level);
        if (!band) return '';
        return `${hzText(band.hz)} · ${figure(levelAt(band, sample - data!.start))} dB · ${timesText(band)}`;
      },
      each: clock.sampleRate / 50,
      rows: 35,
      table: () => [
        ['octave Hz', 'T20 s', 'T30 s', 'seconds', 'dB'],
        ...(data?.bands ?? []).flatMap((band) =>
          band.at.map((at, i) => [
            band.hz,
            band.t20 ?? '',
            band.t30 ?? '',
            (at / clock.sampleRate).toFixed(4),
            band.db[i]!.toFixed(2),
          ]),
        ),
      ],
      share: () => (isFetching ? 0 : 1),
      trouble: error?.message ?? '',
    }),
    [data, error, isFetching, clock],
  );
}

/** “T20 0.82 s · T30 0.85 s”. */
export function timesText({ t20, t30 }: Band): string {
  return `T20 ${figure(t20 ?? undefined, 2)} s · T30 ${figure(t30 ?? undefined, 2)} s`;
}

function levelAt({ at, db }: Band, sample: number): number | undefined {
  const after = at.findIndex((place) => place >= sample);
  if (after < 0 || sample < at[0]!) return undefined;
  if (after === 0) return db[0];
  const [a, b] = [at[after - 1]!, at[after]!];
  return db[after - 1]! + ((db[after]! - db[after - 1]!) * (sample - a)) / (b - a);
}

function nearest(tail: Tail | undefined, sample: number, level: number): Band | undefined {
  let best: Band | undefined;
  let least = Infinity;
  for (const band of tail?.bands ?? []) {
    const found = levelAt(band, sample - tail!.start);
    if (found !== undefined && Math.abs(found - level) < least) {
      least = Math.abs(found - level);
      best = band;
    }
  }
  return best;
}

const placeOf = (box: Box) => (db: number) => box.top + box.height * (1 - share(db));

function label(g: CanvasRenderingContext2D, box: Box, inks: Inks) {
  g.font = `10px ${inks.numbers}`;
  g.textBaseline = 'middle';
  for (const db of MARKED) write(g, figure(db, 0), 3, placeOf(box)(db), inks.ink, inks.paper);
}

function paint(g: CanvasRenderingContext2D, box: Box, inks: Inks, tail: Tail | undefined) {
  g.fillStyle = inks.paper;
  g.fillRect(0, box.top, box.width, box.height);
  g.font = `10px ${inks.numbers}`;
  g.textBaseline = 'middle';
  const y = placeOf(box);
  for (const db of MARKED) {
    g.strokeStyle = inks.quiet;
    g.globalAlpha = 0.22;
    g.beginPath();
    g.moveTo(0, Math.round(y(db)) + 0.5);
    g.lineTo(box.width, Math.round(y(db)) + 0.5);
    g.stroke();
    g.globalAlpha = 1;
  }
  const count = tail?.bands.length ?? 0;
  tail?.bands.forEach((band, i) => {
    const colour = cssOf(octaveColour(i, count));
    g.strokeStyle = colour;
    g.lineWidth = 1.6;
    g.beginPath();
    const x = (k: number) => (tail.start + band.at[k]! - box.start) / box.scale;
    band.db.forEach((db, k) => {
      if (k === 0) g.moveTo(x(k), y(db));
      else g.lineTo(x(k), y(Math.max(LOWEST_DB, db)));
    });
    g.stroke();
    // Which octave it is stands where its line has fallen a little further than the one before.
    const fallen = band.db.findIndex((db) => db <= -14 - 5 * i);
    const mark = fallen < 0 ? band.db.length - 1 : fallen;
    if (mark >= 0) write(g, hzText(band.hz), x(mark) + 3, y(band.db[mark]!), inks.ink, inks.paper);
  });
}
