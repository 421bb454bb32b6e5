import { useMemo } from 'react';
import { usePlayer } from '../../player/player';
import { useTools } from '../tools/context';
import { SoftCuts } from './SoftCuts';
import { useView, useX } from '../axis/view';
import { useReel } from '../../reel/useReel';

const NARROWEST = 14;

interface Span {
  from: number;
  to: number;
  number: number;
}

/** Index of the shot that holds a frame; -1 if none does. */
function shotAt(shots: Span[], frame: number): number {
  let low = 0;
  let high = shots.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (shots[middle]!.to <= frame) low = middle + 1;
    else high = middle;
  }
  return low < shots.length && shots[low]!.from <= frame ? low : -1;
}

/** Shots that are too narrow to be pressed or seen are drawn as one. */
function merged(shots: Span[], x: (frame: number) => number): Span[] {
  const out: Span[] = [];
  for (const shot of shots) {
    const before = out.at(-1);
    if (before && x(before.to) - x(before.from) < NARROWEST)
      out[out.length - 1] = { ...before, to: shot.to };
    else out.push(shot);
  }
  return out;
}

/** The shots as a strip of frames. */
export function Shots() {
  const { clock, media, player } = useTools();
  const picture = useReel((d) => d.picture);
  const x = useX();
  const { width, scale } = useView();
  const clips = picture?.clips;
  const cuts = picture?.cuts;
  const shots = useMemo(() => {
    const end = Math.max(0, ...(clips ?? []).map((c) => c.start + c.length));
    const last = clock.frameOfSample(end);
    const edges = [0, ...(cuts ?? []).filter((c) => c < last), last];
    return edges.slice(0, -1).map((from, i) => ({ from, to: edges[i + 1]!, number: i + 1 }));
  }, [clips, cuts, clock]);
  const names = new Map((picture?.shots ?? []).map((s) => [s.frame, s.name]));
  // Its number alone is asked for: a picture of a thousand shots is not drawn anew each frame.
  const current = usePlayer((s) => shotAt(shots, clock.frameOfSample(s.position)));
  const shot = shots[current];
  const visible = shots.filter(
    (s) => x(clock.sampleOfFrame(s.to)) >= 0 && x(clock.sampleOfFrame(s.from)) <= width,
  );
  return (
    <div className="shots">
      <div className="track-head">
        <strong>Picture</strong>
        {shots.length > 0 && clips?.length ? (
          <>
            <span className="quiet small">
              {shot ? `shot ${shot.number} of ${shots.length}` : `${shots.length} shots`}
            </span>
            <span className="quiet small">
              {cuts?.length ?? 0} {cuts?.length === 1 ? 'cut' : 'cuts'}
            </span>
          </>
        ) : (
          <span className="quiet small">none yet</span>
        )}
      </div>
      <div className="shots-lane">
        {(clips?.length ?? 0) > 0 &&
          merged(visible, (f) => x(clock.sampleOfFrame(f))).map((s) => {
            const from = clock.sampleOfFrame(s.from);
            const left = x(from);
            const right = x(clock.sampleOfFrame(s.to));
            const clip = clips?.findLast((c) => c.start <= from);
            const line = clip && media.get(clip.media);
            const strip = line?.state === 'ready' ? line.info.picture?.strip : undefined;
            const tiles = [];
            if (strip && line) {
              const tile = strip.width;
              // Frames lie on a grid fixed to the shot, so they stay put while scrolling.
              const firstTile = Math.max(0, Math.floor(-left / tile));
              const lastTile = Math.min(
                Math.ceil((right - left) / tile),
                firstTile + Math.ceil(width / tile) + 1,
              );
              for (let i = firstTile; i < lastTile; i++) {
                const frame = s.from + clock.frameOfSample(Math.round(i * tile * scale)) + 1;
                const inFile = frame - clock.frameOfSample(clip!.start - (clip!.source_start ?? 0));
                const k = Math.max(
                  Math.min(strip.count - 1, Math.floor(inFile / strip.every)),
                  Math.min(strip.count - 1, Math.ceil(s.from / strip.every)),
                );
                tiles.push(
                  <span
                    key={i}
                    className="tile"
                    style={{
                      left: i * tile,
                      width: tile,
                      height: strip.height,
                      backgroundImage: `url(/api/media/${line.id}/strip.jpg)`,
                      backgroundPosition: `-${(k % strip.columns) * strip.width}px -${Math.floor(k / strip.columns) * strip.height}px`,
                    }}
                  />,
                );
              }
            }
            return (
              <button
                key={s.from}
                type="button"
                className="shot"
                data-here={(shot && shot.from >= s.from && shot.from < s.to) || undefined}
                style={{ left, width: Math.max(2, right - left) }}
                aria-label={`Shot ${s.number} ${names.get(s.from) ?? ''}, ${clock.timecodeOfFrame(s.from)}`}
                onClick={() => player.seek(from)}
              >
                {tiles}
                {right - left > 22 && (
                  <span className="shot-number" style={{ left: Math.max(5, 5 - left) }}>
                    {s.number} {names.get(s.from)}
                  </span>
                )}
              </button>
            );
          })}
        {(clips?.length ?? 0) > 0 && <SoftCuts />}
      </div>
    </div>
  );
}
