/** All that pulls what is dragged or dropped now: beats only while they are shown. */
import { usePlayer } from '../../player/player';
import { reelNow } from '../../reel/useReel';
import type { Clock } from '../../time/clock';
import { beatsNow, useBeatsShown } from '../tools/found';
import { snapTargets, type Target } from './snap';

/** @param except The part that is being moved: it does not snap to where it was. */
export function targetsNow(clock: Clock, except?: string): Target[] {
  const beats = useBeatsShown.getState().beats ? beatsNow() : [];
  return snapTargets(reelNow(), clock, usePlayer.getState().position, except, beats);
}
