/** What a frame and a beat are where the playhead is, in milliseconds. */
import { useMemo } from 'react';
import { usePlayer } from '../../player/player';
import type { Known } from '../../typed/values';
import { useTools } from './context';
import { useBeats } from './found';

/** @param own Milliseconds of a metre, where the sound's medium is known. */
export function useKnownTimes(own?: Record<string, number>): Known {
  const { clock } = useTools();
  const beats = useBeats();
  const { position } = usePlayer.getState();
  const next = beats.findIndex((beat) => beat > position);
  const pair = next > 0 ? next : beats.length > 1 ? 1 : 0;
  const beat = pair > 0 ? beats[pair]! - beats[pair - 1]! : 0;
  const metres = own?.['m'];
  return useMemo(
    () => ({
      f: 1000 / clock.framesPerSecond,
      ...(metres ? { m: metres } : {}),
      ...(beat > 0 ? { beat: (1000 * beat) / clock.sampleRate } : {}),
    }),
    [clock, metres, beat],
  );
}
