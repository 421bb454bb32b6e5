/** The question for a stretch of sound, as it travels. */
import type { Ask } from './plan';

interface Bearing {
  /** The commands of a draft, or what the reel is compared with; without one, the reel as it is. */
  body: unknown;
  /** The key of what is held: that is not sent again. */
  held: string | undefined;
  /** Of a player's older generations nothing is computed any more. */
  player: string;
  generation: number;
  /** By which the server knows our own page. */
  token: string;
  signal: AbortSignal;
}

export function requestSound(
  reel: string,
  { side, index, part, parts }: Ask,
  { body, held, player, generation, token, signal }: Bearing,
): Promise<Response> {
  const query = new URLSearchParams({
    player,
    generation: String(generation),
    ...(part === undefined ? {} : { part: String(part) }),
    ...(parts === undefined ? {} : { parts: String(parts) }),
  });
  const post = body !== undefined;
  return fetch(`/api/reels/${reel}/sound/${side}/${index}?${query.toString()}`, {
    method: post ? 'POST' : 'GET',
    signal,
    cache: 'no-store',
    headers: {
      ...(held ? { 'If-None-Match': `"${held}"` } : {}),
      ...(post ? { 'X-CSRFToken': token, 'Content-Type': 'application/json' } : {}),
    },
    ...(post ? { body: JSON.stringify(body) } : {}),
  });
}
