import { useRef, type PointerEvent } from 'react';
import { follow } from '../../hand/pointer';
import { usePlayer } from '../../player/player';
import { useTools } from '../tools/context';
import { useBeats, useBeatsShown } from '../tools/found';
import { MarkerFlag } from '../lists/MarkerFlag';
import { usePlace, useView, useX } from '../axis/view';
import { useReel } from '../../reel/useReel';

const APART_PX = 96;

/** Frames between labels, chosen so that they fall on seconds or on even frames. */
function labelStep(framesPerPixel: number, nominal: number): number {
  const least = APART_PX * framesPerPixel;
  const steps = [1, 2, 5, 10, nominal, 2, 5, 10, 15, 30, 60, 120, 300, 600, 1800].map((s, i) =>
    i < 5 ? s : s * nominal,
  );
  return steps.find((s) => s >= least) ?? steps.at(-1)!;
}

/** The part of a rising list that lies in view. */
function within(list: number[], from: number, to: number): number[] {
  return list.filter((sample) => sample >= from && sample <= to);
}

/** Timecode, beats, markers and the playhead's head; press and drag to move the playhead. */
/** Half the width of what says where the playhead is, and how near it hides other times. */
const HEAD_PX = 42;
const HIDES_PX = 70;

export function Ruler() {
  const { clock, player } = useTools();
  const markers = useReel((d) => d.markers);
  const x = useX();
  const { start, scale, width } = useView();
  const loop = usePlayer((s) => s.loop);
  const beats = useBeats();
  const shown = useBeatsShown((s) => s.beats);
  const step = labelStep((scale * clock.framesPerSecond) / clock.sampleRate, clock.nominal);
  const first = Math.floor(clock.frameOfSample(Math.max(0, start)) / step) * step;
  const last = clock.frameOfSample(start + width * scale);
  const frames: number[] = [];
  for (let f = first; f <= last; f += step) frames.push(f);
  const fine = step / (step % 5 === 0 ? 5 : 2);

  const down = (e: PointerEvent<HTMLDivElement>) => {
    if (e.button !== 0) return;
    const box = e.currentTarget.getBoundingClientRect();
    const before = usePlayer.getState().position;
    const go = (clientX: number, heard: boolean) => {
      const view = useView.getState();
      const sample = view.start + (clientX - box.left) * view.scale;
      const at = clock.sampleOfFrame(clock.frameOfSample(Math.max(0, sample)));
      if (heard && at !== last) void player.scrub(at);
      else player.seek(at);
      last = at;
    };
    let last = -1;
    go(e.clientX, false);
    follow(e, {
      moved: (m) => go(m.clientX, true),
      up: () => undefined,
      lost: () => player.seek(before),
    });
  };

  // The number of the tick whose time the playhead's own would hide.
  const under = usePlayer((s) => {
    const head = Math.max(HEAD_PX, Math.min(width - HEAD_PX, (s.position - start) / scale));
    return frames.filter((f) => Math.abs(x(clock.sampleOfFrame(f)) - head) <= HIDES_PX).join(' ');
  }).split(' ');
  return (
    <div className="ruler">
      <div className="track-head number quiet">{clock.timecode(Math.max(0, start))}</div>
      <div className="ruler-lane" onPointerDown={down}>
        <div aria-hidden="true">
          {loop && (
            <span
              className="loop"
              style={{ left: x(loop.start), width: x(loop.end) - x(loop.start) }}
            />
          )}
          {frames.map((f) => (
            <span key={f} className="tick" style={{ left: x(clock.sampleOfFrame(f)) }}>
              {!under.includes(String(f)) && (
                <span className="number">
                  {clock
                    .timecodeOfFrame(f)
                    .slice(step % clock.nominal === 0 ? 3 : 3, step % clock.nominal === 0 ? 8 : 11)}
                </span>
              )}
            </span>
          ))}
          {fine >= 1 &&
            frames.flatMap((f) =>
              Array.from({ length: Math.round(step / fine) - 1 }, (_, i) => f + (i + 1) * fine).map(
                (g) => (
                  <span
                    key={g}
                    className="tick fine"
                    style={{ left: x(clock.sampleOfFrame(Math.round(g))) }}
                  />
                ),
              ),
            )}
          {shown &&
            within(beats, start, start + width * scale).map((b, i, all) =>
              // Where beats would run into one another, fewer are drawn.
              all.length * 4 < width || i % Math.ceil((all.length * 4) / width) === 0 ? (
                <span key={b} className="beat" style={{ left: x(b) }} />
              ) : null,
            )}
        </div>
        {(markers ?? []).map((m) => (
          <MarkerFlag key={m.id} marker={m} />
        ))}
        <PlayheadHead />
      </div>
    </div>
  );
}

/** Where the playhead is, in words; it moves at every frame of the screen. */
function PlayheadHead() {
  const { clock } = useTools();
  const head = useRef<HTMLSpanElement>(null);
  const frame = usePlayer((s) => clock.frameOfSample(Math.max(0, s.position)));
  usePlace((px, { width }) => {
    if (!head.current) return;
    const at = Math.max(HEAD_PX, Math.min(width - HEAD_PX, px));
    head.current.style.transform = `translateX(calc(${at}px - 50%))`;
  });
  return (
    <span className="playhead-head number" ref={head} aria-hidden="true">
      {clock.timecodeOfFrame(frame)}
    </span>
  );
}
