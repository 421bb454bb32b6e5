import { Tooltip } from '@mantine/core';
import { useRef, type PointerEvent } from 'react';
import { firstValue, type Track, type Treatment } from '../../reel/document';
import { usePlayer } from '../../player/player';
import { useSession } from '../../reel/session';
import { lengthText } from '../../time/clock';
import { useWorkbench } from '../context';
import { useBeats, useBeatsShown } from '../found';
import { draggedOn, useSelection, withClip } from '../selection';
import { ChainButton } from './ChainButton';
import { ClipView } from './ClipView';
import { useReadout } from './readout';
import { snap, snapTargets } from './snap';
import { follow } from './spanDrag';
import { TreatmentView } from './TreatmentView';
import { useView, useX } from './view';

const CLIP = 48;
const ROW = 44;
const TOP = 5;
const MOVED_PX = 4;

/** Rows for treatments: those that overlap lie below one another, in processing order. */
function rowsOf(treatments: Treatment[]): Map<string, number> {
  const rows = new Map<string, number>();
  treatments.forEach((t, i) => {
    const above = treatments
      .slice(0, i)
      .filter((o) => o.start < t.start + t.length && t.start < o.start + o.length)
      .map((o) => rows.get(o.id) ?? 0);
    rows.set(t.id, above.length ? Math.max(...above) + 1 : 0);
  });
  return rows;
}

export function TrackRow({ track, index }: { track: Track; index: number }) {
  const { clock, document, player } = useWorkbench();
  const x = useX();
  const lane = useRef<HTMLDivElement>(null);
  const { selection, select } = useSelection();
  const edit = useSession((s) => s.edit);
  const show = useReadout((s) => s.show);
  const treatments = track.treatments ?? [];
  const rows = rowsOf(treatments);
  const depth = Math.max(1, ...[...rows.values()].map((r) => r + 1));
  const height = TOP * 2 + CLIP + depth * (ROW + 3);
  const dragged = draggedOn(selection, track.id);
  const beats = useBeats();
  const shown = useBeatsShown((s) => s.beats);

  const down = (e: PointerEvent<HTMLDivElement>) => {
    if (e.button !== 0 || !lane.current) return;
    const box = lane.current.getBoundingClientRect();
    const clip = (e.target as HTMLElement).closest<HTMLElement>('[data-clip]')?.dataset['clip'];
    const { start, scale } = useView.getState();
    const sampleAt = (clientX: number) => start + (clientX - box.left) * scale;
    const { position } = usePlayer.getState();
    const targets = snapTargets(document, clock, position, undefined, shown ? beats : []);
    const origin = snap(sampleAt(e.clientX), targets, clock, scale, e.altKey);
    const startX = e.clientX;
    let dragging = false;
    const move = (m: globalThis.PointerEvent) => {
      if (!dragging && Math.abs(m.clientX - startX) < MOVED_PX) return;
      dragging = true;
      const here = snap(sampleAt(m.clientX), targets, clock, scale, m.altKey);
      const a = Math.max(0, Math.min(origin.sample, here.sample));
      const b = Math.max(origin.sample, here.sample);
      show({
        sample: here.sample,
        to: here.to,
        text: `${clock.timecode(here.sample)} · ${lengthText(clock, b - a)}`,
      });
      if (b > a) select({ kind: 'range', track: track.id, start: a, end: b });
    };
    const up = () => {
      show(undefined);
      if (dragging) return;
      player.seek(clock.sampleOfFrame(clock.frameOfSample(Math.max(0, sampleAt(startX)))));
      if (clip && e.shiftKey) select(withClip(selection, clip));
      else select(clip ? { kind: 'clip', id: clip } : { kind: 'none' });
    };
    follow(e, move, up);
  };

  const toggle = (what: 'mute' | 'solo') =>
    void edit({ kind: 'set_track', id: track.id, [what]: !track[what] });
  const gain = firstValue(track.gain_db, 0);
  return (
    <section className="track" style={{ height }} aria-label={`Track ${track.name ?? ''}`}>
      <div className="track-head">
        <div className="track-title">
          <span title={track.name}>{track.name}</span>
          <Tooltip label="Mute">
            <button
              type="button"
              className="toggle"
              aria-label={`Mute ${track.name}`}
              aria-pressed={track.mute ?? false}
              onClick={() => toggle('mute')}
            >
              M
            </button>
          </Tooltip>
          <Tooltip label="Solo: hear this track alone">
            <button
              type="button"
              className="toggle"
              aria-label={`Solo ${track.name}`}
              aria-pressed={track.solo ?? false}
              onClick={() => toggle('solo')}
            >
              S
            </button>
          </Tooltip>
        </div>
        <div className="track-foot">
          <GainField
            gain={gain}
            moves={typeof track.gain_db === 'object'}
            name={track.name ?? ''}
            save={(gain_db) => void edit({ kind: 'set_track', id: track.id, gain_db })}
          />
          <ChainButton
            what={`all of ${track.name}`}
            count={track.treatment?.effects?.length ?? 0}
            chosen={selection.kind === 'track' && selection.id === track.id}
            onClick={() => select({ kind: 'track', id: track.id })}
          />
        </div>
      </div>
      <div className="lane" ref={lane} onPointerDown={down} data-track={track.id}>
        {(track.clips ?? []).map((clip, c) => (
          <div className="clip-place" key={clip.id} style={{ top: TOP }}>
            <ClipView
              clip={clip}
              path={`tracks.${index}.clips.${c}`}
              height={CLIP}
              track={track.id}
            />
          </div>
        ))}
        {treatments.map((t, f) => (
          <TreatmentView
            key={t.id}
            treatment={t}
            path={`tracks.${index}.treatments.${f}`}
            top={TOP + CLIP + 1 + (rows.get(t.id) ?? 0) * (ROW + 3)}
            height={ROW}
          />
        ))}
        {treatments.length === 0 &&
          !(track.clips ?? []).some((c) => c.treatment?.effects?.length) && (
            <span className="lane-hint">Drag here to treat a stretch</span>
          )}
        {dragged && (
          <div
            className="range"
            style={{
              left: x(dragged.start),
              width: Math.max(2, x(dragged.end) - x(dragged.start)),
            }}
          />
        )}
      </div>
    </section>
  );
}

function GainField(props: {
  gain: number;
  moves: boolean;
  name: string;
  save: (gain: number) => void;
}) {
  const { gain, moves, name, save } = props;
  const text = `${gain.toFixed(1).replace('-', '−')} dB`;
  if (moves) return <span className="number quiet">{text} moves</span>;
  return (
    <input
      key={gain}
      className="number track-gain"
      aria-label={`Level of ${name}`}
      defaultValue={text}
      onFocus={(e) => e.currentTarget.select()}
      onBlur={(e) => {
        const value = Number(
          e.currentTarget.value
            .replace('−', '-')
            .replace(',', '.')
            .replace(/\s*dB\s*$/i, ''),
        );
        if (Number.isFinite(value) && e.currentTarget.value.trim() && value !== gain)
          save(Math.max(-96, Math.min(24, value)));
        else e.currentTarget.value = text;
      }}
      onKeyDown={(e) => {
        if (e.key === 'Enter') e.currentTarget.blur();
        if (e.key === 'ArrowUp' || e.key === 'ArrowDown') {
          e.preventDefault();
          save(Math.round((gain + (e.key === 'ArrowUp' ? 0.5 : -0.5)) * 10) / 10);
        }
      }}
    />
  );
}
