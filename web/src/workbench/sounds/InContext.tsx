import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { usePlayer } from '../../player/player';
import { useSession } from '../../reel/session';
import { levelsOf } from '../listening/levels';
import { stopTrying, tryOut } from '../listening/trying';
import { placeNow } from '../selected/place';
import { useSelection } from '../selected/selection';
import { useTools } from '../tools/context';
import { figure } from '../values/values';
import { stopHearing } from './hearing';
import { stretchAt, type Laid } from './laying';
import { isHeard } from './making';

const HIT_SECONDS = 3;

interface Props {
  name: string;
  /** Whether it is laid from cut to cut. */
  bed: boolean;
  /** LUFS, if it is known. */
  loudness: number | null;
  /** How long it sounds from the playhead. */
  seconds?: number;
  /** What lays it where one is now. */
  laid: () => Promise<Laid>;
}

/** Where a sound would go, how loud the mix is there, and hearing it there before it is laid. */
export function InContext(props: Props) {
  const { name, bed, loudness, seconds = HIT_SECONDS, laid: laidNow } = props;
  const { clock, player, reel } = useTools();
  const tell = useSession((s) => s.tell);
  const revision = useSession((s) => s.committed.revision);
  const [waiting, setWaiting] = useState(false);
  const stop = useRef<AbortController>(undefined);
  useEffect(
    () => () => {
      stop.current?.abort();
      stopTrying(player);
    },
    [player],
  );
  // Where it would go follows the selection and the playhead, once that has come to rest.
  useSelection((s) => s.selection);
  const rests = usePlayer((s) => !s.playing);
  const second = usePlayer((s) =>
    s.playing ? undefined : Math.floor(s.position / clock.sampleRate),
  );
  const at = (second ?? 0) * clock.sampleRate;
  const { data: place } = useQuery({
    ...stretchAt(reel, revision, placeNow(at)),
    enabled: bed && rests,
  });
  const range = bed
    ? place && { start: place.start, stop: place.end }
    : { start: at, stop: at + Math.round(seconds * clock.sampleRate) };
  const { data } = useQuery(levelsOf(reel, revision, rests ? range : undefined));
  const tryHere = async () => {
    stopHearing();
    stop.current?.abort();
    const mine = (stop.current = new AbortController());
    setWaiting(true);
    try {
      const laid = await laidNow();
      const media = String(laid.commands.at(-1)!['media']);
      if (await isHeard(media, mine.signal))
        tryOut(player, name, laid.commands, laid.span, true, true);
    } catch (error) {
      if (!mine.signal.aborted) tell((error as Error).message);
    } finally {
      if (stop.current === mine) setWaiting(false);
    }
  };
  const mix = data?.share === 1 ? data.loudness : undefined;
  const where = !bed
    ? 'At the playhead.'
    : place
      ? `Over ${place.of}: ${clock.timecode(place.start)} to ${clock.timecode(place.end)}.`
      : '';
  return (
    <div className="sound-context">
      <p className="quiet small" data-bed={bed || undefined}>
        {where}{' '}
        {mix != null &&
          loudness !== null &&
          `The mix there is at ${figure(mix)} LUFS, this at ${figure(loudness)}: ${beside(loudness - mix)}.`}
        {mix === null && 'Nothing else sounds there.'}
      </p>
      <Button size="compact-sm" variant="default" loading={waiting} onClick={() => void tryHere()}>
        Try it under the picture
      </Button>
    </div>
  );
}

function beside(lu: number): string {
  if (Math.abs(lu) < 0.5) return 'as loud';
  return `${figure(Math.abs(lu))} LU ${lu < 0 ? 'below' : 'above'} it`;
}
