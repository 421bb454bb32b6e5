import { useEffect, useRef, useState } from 'react';
import { usePlayer } from '../../player/player';
import type { Track } from '../../reel/document';
import { useReel } from '../../reel/useReel';
import { useSession } from '../../reel/session';
import { useTools } from '../tools/context';
import { stripOf, useKinds } from './useColumns';
import { columnAt, valueOf } from './tiles';

/** Ten columns a second: a bar that moves faster is not read. */
const STEP = 2;
const LOW = 0;
const HIGH = 1;
const FLOOR_DB = -48;
const HOLD_MS = 1500;
const HOW = { axis: 'log', sharp: 'both' } as const;

const share = (peak: number) =>
  peak > 0 ? Math.max(0, Math.min(1, 1 - (20 * Math.log10(peak)) / FLOOR_DB)) : 0;

/** The peaks of a track while it plays, after its level and pan; where it was too loud stays. */
export function TrackMeter({ track }: { track: Pick<Track, 'id' | 'name' | 'mute' | 'solo'> }) {
  const { reel, clock, player } = useTools();
  const kind = useKinds().find((k) => k.id === 'wave');
  const heard = useReel((d) => {
    const solo = (d.tracks ?? []).some((t) => t.solo);
    return !track.mute && (!solo || Boolean(track.solo));
  });
  const bar = useRef<HTMLSpanElement>(null);
  const hold = useRef<HTMLSpanElement>(null);
  const [over, setOver] = useState<number>();
  useEffect(() => {
    if (!kind) return undefined;
    const what = { of: `track:${track.id}`, ...HOW };
    // Looked up as it draws: an edit is no reason to draw all heads anew.
    const strip = (side: 'after' | 'before') => {
      const { revision } = useSession.getState().committed;
      return stripOf({ reel, revision, clock }, what, kind, side, STEP);
    };
    let held = 0;
    let shown = NaN;
    let marked = NaN;
    let since = 0;
    const draw = () => {
      const { playing, position, side, against } = usePlayer.getState();
      let peak = 0;
      if (playing && heard) {
        const heardNow = strip(side === 'other' && against.of === 'all' ? 'before' : 'after');
        const column = columnAt(heardNow, position);
        // What comes next is fetched before it is needed.
        columnAt(heardNow, position + 2 * clock.sampleRate);
        const [low, high] = [LOW, HIGH].map((row) => valueOf(heardNow, column, row) ?? 0);
        peak = Math.max(-low!, high!);
        if (peak > 1) setOver((before) => before ?? Math.round(position));
      }
      const now = performance.now();
      if (peak >= held || now - since > HOLD_MS) {
        held = peak;
        since = now;
      }
      // Most frames of the screen bring nothing new.
      if (peak !== shown && bar.current) bar.current.style.transform = `scaleY(${share(peak)})`;
      if (held !== marked && hold.current) {
        hold.current.style.bottom = `${100 * share(held)}%`;
        hold.current.hidden = held === 0;
      }
      [shown, marked] = [peak, held];
    };
    draw();
    return usePlayer.subscribe((state, before) => {
      if (state.position !== before.position || state.playing !== before.playing) draw();
      // The meters were reset.
      if (state.levels === undefined && before.levels !== undefined) setOver(undefined);
    });
  }, [reel, clock, kind, track.id, heard]);
  const name = track.name || track.id;
  return (
    <span className="track-meter">
      <span className="track-meter-bar" ref={bar} />
      <span className="track-meter-hold" ref={hold} />
      {over !== undefined && (
        <button
          type="button"
          className="track-meter-over"
          aria-label={`${name} passed full scale at ${clock.timecode(over)}: go there`}
          title={`${name} passed full scale at ${clock.timecode(over)}: go there`}
          onClick={() => {
            player.seek(over);
            setOver(undefined);
          }}
        />
      )}
    </span>
  );
}
