/** The sounds that ship: their models, and which of them words may mean. */
import { queryOptions } from '@tanstack/react-query';
import { client, unwrap, type Schemas } from '../../api/client';

export type Model = Schemas['ModelLine'];
export type Sound = Schemas['SoundLine'];

export const shelf = queryOptions({
  queryKey: ['sounds'],
  queryFn: () => unwrap(client.GET('/api/sounds')),
  staleTime: Infinity,
});

/** Ids of the sounds that words may mean, the best first. */
export function soundsFound(text: string) {
  return queryOptions({
    queryKey: ['sounds', text],
    queryFn: () => unwrap(client.GET('/api/sounds/found', { params: { query: { text } } })),
    staleTime: Infinity,
    enabled: text !== '',
    placeholderData: (last: string[] | undefined) => last,
  });
}

/** What is wanted of a sound: which, with which settings, which take, how loud. */
export interface WantedSound {
  sound: Sound;
  model: Model;
  settings: Record<string, number>;
  seed: number;
  gainDb: number;
}

/** A sound as it comes. */
export function asItComes(sound: Sound, model: Model): WantedSound {
  return { sound, model, settings: sound.settings, seed: 1, gainDb: 0 };
}
