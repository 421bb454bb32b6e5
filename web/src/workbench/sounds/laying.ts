/** Where a computed sound goes: a bed from cut to cut, a hit at the playhead. */
import { queryOptions } from '@tanstack/react-query';
import type { PointerEvent } from 'react';
import { client, unwrap, type Schemas } from '../../api/client';
import { usePlayer } from '../../player/player';
import { useSession, type Command } from '../../reel/session';
import type { Clock } from '../../time/clock';
import { newId } from '../../ui/ids';
import { dragToTrack, type On } from '../axis/layDrag';
import { trackSelected } from '../media/laying';
import { placeNow, type Place } from '../selected/place';
import { useSelection } from '../selected/selection';
import { makeMedium, type MadeSound } from './making';
import type { WantedSound } from './shelf';

type Stretch = Schemas['StretchLine'];

/** How long a bed is made that is dragged, and so ends nowhere in particular. */
const DRAGGED_SECONDS = 30;

/** Where a bed would be laid: what is selected, else the shot one is in. */
export function stretchAt(reel: string, revision: number, place: Place) {
  return queryOptions({
    queryKey: ['stretch', reel, revision, place],
    queryFn: () => askStretch(reel, place),
    staleTime: Infinity,
    placeholderData: (last: Stretch | undefined) => last,
  });
}

function askStretch(reel: string, place: Place): Promise<Stretch> {
  const path = { params: { path: { id: reel } } };
  return unwrap(client.POST('/api/reels/{id}/stretch', { ...path, body: place }));
}

/** The edits that lay a sound, and what they lay it over. */
export interface Laid {
  commands: Command[];
  clip: string;
  span: { start: number; end: number };
}

export function bedLaid(wanted: WantedSound, made: MadeSound, stretch: Stretch): Laid {
  const clip = newId('c');
  const { start, end } = stretch;
  const command = {
    kind: 'lay_bed',
    media: made.id,
    path: made.path,
    sound: made.sound,
    clip,
    start: { sample: start },
    end: { sample: end },
    gain_db: wanted.gainDb,
    new_track: newId('t'),
  };
  return { commands: [command], clip, span: { start, end } };
}

export function hitLaid(
  wanted: WantedSound,
  made: MadeSound,
  at: number,
  on: On,
  clip = newId('c'),
): Laid {
  // What a hand has only drafted is not there yet.
  const known = useSession.getState().committed.document?.media?.some((m) => m.id === made.id);
  const medium = { kind: 'add_medium', medium: { id: made.id, path: made.path } };
  const command = {
    kind: 'lay_sound',
    media: made.id,
    sound: made.sound,
    clip,
    at: { sample: at },
    gain_db: wanted.gainDb,
    ...on,
  };
  return {
    commands: known ? [command] : [medium, command],
    clip,
    span: { start: at, end: at + made.sound.samples },
  };
}

/** A sound where it would go now. */
export async function laidNow(wanted: WantedSound, clock: Clock): Promise<Laid> {
  if (wanted.model.kind === 'bed') {
    const stretch = await askStretch(useSession.getState().id, placeNow());
    const seconds = (stretch.end - stretch.start) / clock.sampleRate;
    return bedLaid(wanted, await makeMedium(wanted, seconds), stretch);
  }
  const made = await makeMedium(wanted, 1);
  const frame = clock.frameOfSample(usePlayer.getState().position);
  const track = trackSelected(useSelection.getState().selection);
  const on = track ? { track } : { new_track: newId('t') };
  return hitLaid(wanted, made, clock.sampleOfFrame(frame), on);
}

/** Lay it, and select what was laid. */
export async function layNow(wanted: WantedSound, clock: Clock): Promise<void> {
  const { commands, clip } = await laidNow(wanted, clock);
  if (await useSession.getState().edit(commands))
    useSelection.getState().select({ kind: 'clip', id: clip });
}

/** Drag it to a track, or below all tracks onto one of its own. */
export function dragSound(e: PointerEvent<Element>, wanted: WantedSound, clock: Clock) {
  if (e.button !== 0) return;
  let made: MadeSound | undefined;
  dragToTrack(e, clock, {
    meant: () =>
      void makeMedium(wanted, DRAGGED_SECONDS).then(
        (found) => (made = found),
        (error: unknown) => useSession.getState().tell((error as Error).message),
      ),
    commands: (clip, at, on) => (made ? hitLaid(wanted, made, at.sample, on, clip).commands : []),
    laid: (clip) => useSelection.getState().select({ kind: 'clip', id: clip }),
  });
}
