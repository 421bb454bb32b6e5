import { useComputedColorScheme } from '@mantine/core';
import { useEffect, useReducer, useRef, useState, type PointerEvent } from 'react';
import { firstValue, type Clip, type ReelDocument } from '../../reel/document';
import { useWaveSize, WAVE_SIZES } from '../axis/waveSize';
import { follow } from '../../hand/pointer';
import { usePlayer } from '../../player/player';
import { useTools } from '../tools/context';
import { useSession } from '../../reel/session';
import { placeIn } from '../../time/outline';
import { useSelection } from '../selected/selection';
import { apart } from '../axis/apart';
import { ChainButton } from '../treatments/ChainButton';
import { Parts } from '../axis/parts';
import { useView } from '../axis/view';
import { useShallow } from 'zustand/react/shallow';
import { useReel } from '../../reel/useReel';

const HEIGHT = 76;
const FLOOR_DB = -54;
const HOP_SECONDS = 0.5;
const CUTS_APART_PX = 2;
const profiles = new Parts((data) => new Float32Array(data));

const NO_CLIPS: Clip[] = [];

/** Clips and level of each track that is heard, in turn: what its drawing depends on. */
function soundingOf({ document }: { document: ReelDocument | undefined }): (Clip[] | number)[] {
  return (document?.tracks ?? []).flatMap((track) =>
    track.mute ? [] : [track.clips ?? NO_CLIPS, firstValue(track.gain_db, 0)],
  );
}

/** The whole reel as a level profile, which is also the scroll bar. */
export function Overview() {
  const { clock, media } = useTools();
  const sounding = useSession(useShallow(soundingOf));
  const cuts = useReel((d) => d.picture?.cuts);
  const effects = useReel((d) => d.mix?.treatment?.effects?.length ?? 0);
  const { start, scale, width, length } = useView();
  const box = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const [own, setOwn] = useState(800);
  const speeds = useSession((s) => s.derived?.speeds);
  const [arrivals, arrived] = useReducer((n: number) => n + 1, 0);
  const colorScheme = useComputedColorScheme();
  const { selection, select } = useSelection();
  useEffect(() => {
    const observer = new ResizeObserver(([entry]) => setOwn(entry!.contentRect.width));
    if (box.current) observer.observe(box.current);
    return () => observer.disconnect();
  }, []);
  const x = (sample: number) => (sample / Math.max(1, length)) * own;

  useEffect(() => {
    const element = canvas.current;
    const g = element?.getContext('2d');
    if (!element || !g) return;
    const ratio = window.devicePixelRatio || 1;
    element.width = Math.round(own * ratio);
    element.height = Math.round(HEIGHT * ratio);
    g.scale(ratio, ratio);
    const hop = HOP_SECONDS * clock.sampleRate;
    const power = new Float64Array(Math.max(1, Math.ceil(length / hop)));
    const add = (clip: Clip, gainDb: number) => {
      if (!media.get(clip.media)?.info.sound || clip.enabled === false) return;
      const profile = profiles.get(`${clip.media}/profile.f32`, arrived);
      if (!profile) return;
      const gain = 10 ** ((gainDb + firstValue(clip.gain_db, 0)) / 10);
      const first = Math.floor(clip.start / hop);
      const last = Math.floor((clip.start + clip.length - 1) / hop);
      for (let i = first; i <= last && i < power.length; i++) {
        const at = Math.floor(
          placeIn(clip, speeds?.[clip.id]?.outline, i * hop - clip.start) / hop,
        );
        power[i]! += gain * (profile[Math.max(0, at)] ?? 0);
      }
    };
    for (let i = 0; i < sounding.length; i += 2)
      for (const clip of sounding[i] as Clip[]) add(clip, sounding[i + 1] as number);
    const style = getComputedStyle(element);
    g.fillStyle = style.getPropertyValue('--depth-2');
    g.strokeStyle = style.getPropertyValue('--depth-4');
    g.beginPath();
    g.moveTo(0, 0);
    const line: [number, number][] = [];
    power.forEach((p, i) => {
      const db = Math.max(FLOOR_DB, 10 * Math.log10(p + 1e-12));
      const y = 6 + (1 - db / FLOOR_DB) * (HEIGHT - 14);
      line.push([(((i + 0.5) * hop) / Math.max(1, length)) * own, y]);
    });
    g.lineTo(0, line[0]?.[1] ?? 6);
    for (const [px, py] of line) g.lineTo(px, py);
    g.lineTo(own, line.at(-1)?.[1] ?? 6);
    g.lineTo(own, 0);
    g.closePath();
    g.fill();
    g.beginPath();
    line.forEach(([px, py], i) => (i ? g.lineTo(px, py) : g.moveTo(px, py)));
    g.stroke();
    g.strokeStyle = style.getPropertyValue('--ink-2');
    g.setLineDash([1, 2]);
    g.beginPath();
    const at = (cut: number) => (clock.sampleOfFrame(cut) / Math.max(1, length)) * own;
    for (const px of apart(cuts ?? [], at, CUTS_APART_PX)) {
      g.moveTo(Math.round(px) + 0.5, 0);
      g.lineTo(Math.round(px) + 0.5, HEIGHT);
    }
    g.stroke();
  }, [sounding, cuts, media, own, length, clock, arrivals, colorScheme, speeds]);

  const down = (e: PointerEvent<HTMLDivElement>) => {
    if (e.button !== 0) return;
    const { left } = e.currentTarget.getBoundingClientRect();
    const part = (e.target as HTMLElement).dataset['part'];
    const view = useView.getState();
    const span = view.scale * view.width;
    const sampleAt = (clientX: number) => ((clientX - left) / own) * length;
    const grabbed = sampleAt(e.clientX);
    const offset = part ? grabbed - view.start : span / 2;
    const move = (m: globalThis.PointerEvent) => {
      const at = sampleAt(m.clientX);
      if (part === 'from')
        useView.getState().fit(Math.min(at, view.start + span - 4800), view.start + span);
      else if (part === 'to') useView.getState().fit(view.start, Math.max(at, view.start + 4800));
      else useView.getState().set({ start: at - offset });
    };
    if (!part) move(e.nativeEvent);
    const lost = () => {
      useView.getState().fit(view.start, view.start + span);
    };
    follow(e, { moved: move, up: () => undefined, lost });
  };

  return (
    <div className="overview">
      <div className="track-head">
        <strong title="Its level before treatment">Whole reel</strong>
        <div className="track-foot">
          <span className="mix-name">Mix</span>
          <ChainButton
            what="the mix, everything that is heard"
            count={effects}
            chosen={selection.kind === 'mix'}
            onClick={() => select({ kind: 'mix' })}
          />
        </div>
        <div className="zoom">
          <button
            type="button"
            aria-label="Zoom out"
            onClick={() => useView.getState().zoom(1.6, width / 2)}
          >
            −
          </button>
          <button
            type="button"
            aria-label="Zoom in"
            onClick={() =>
              useView
                .getState()
                .zoom(1 / 1.6, x2(usePlayer.getState().position, start, scale, width))
            }
          >
            +
          </button>
          <button type="button" onClick={() => useView.getState().fit(0, length)}>
            all
          </button>
          <WaveSize />
        </div>
      </div>
      <div className="overview-lane" ref={box} onPointerDown={down} data-testid="overview">
        <canvas ref={canvas} style={{ width: own, height: HEIGHT }} aria-hidden="true" />
        <OverviewPlayhead length={length} own={own} />
        <div
          className="window"
          data-part="window"
          style={{
            left: x(start),
            width: Math.max(10, Math.min(own - x(start), x(scale * width))),
          }}
        >
          <span data-part="from" />
          <span data-part="to" />
        </div>
      </div>
    </div>
  );
}

/** How large the waves of all clips are drawn; no level is changed by it. */
function WaveSize() {
  const { factor, setFactor } = useWaveSize();
  return (
    <select
      aria-label="Size of the waves"
      title="How large waves are drawn; no level changes"
      value={factor}
      onChange={(e) => setFactor(Number(e.currentTarget.value))}
    >
      {WAVE_SIZES.map((size) => (
        <option key={size} value={size}>
          ∿ {size}×
        </option>
      ))}
    </select>
  );
}

function OverviewPlayhead({ length, own }: { length: number; own: number }) {
  const px = usePlayer((s) => Math.round((s.position / Math.max(1, length)) * own));
  return <span className="overview-playhead" style={{ left: px }} />;
}

/** Zoom around the playhead if it is in view, else around the middle. */
function x2(position: number, start: number, scale: number, width: number): number {
  const px = (position - start) / scale;
  return px >= 0 && px <= width ? px : width / 2;
}
