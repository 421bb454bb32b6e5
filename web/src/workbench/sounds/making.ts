/** Computed sounds become media of the account: the same settings are the same medium. */
import { client, unwrap, type MediaLine } from '../../api/client';
import { reelNow } from '../../reel/useReel';
import type { WantedSound } from './shelf';

const LOOK_MS = 250;

export interface MadeSound {
  id: string;
  path: string;
  /** At the reel's rate; it can be laid before it is ready. */
  sound: { samples: number; rate: number; starts: number };
}

export async function makeMedium(wanted: WantedSound, seconds: number): Promise<MadeSound> {
  const rate = reelNow().sample_rate;
  const { media, samples } = await unwrap(
    client.POST('/api/sounds/made', {
      body: {
        model: wanted.model.id,
        name: wanted.sound.name,
        settings: wanted.settings,
        seed: wanted.seed,
        seconds,
        rate,
      },
    }),
  );
  return { id: media.id, path: media.name, sound: { samples, rate, starts: 0 } };
}

/** Wait until a medium can be heard. */
export async function isHeard(id: string, signal: AbortSignal): Promise<boolean> {
  for (;;) {
    if (signal.aborted) return false;
    const line: MediaLine = await unwrap(
      client.GET('/api/media/{id}', { params: { path: { id } }, signal }),
    );
    if (line.info.sound) return true;
    if (line.state === 'failed' || line.state === 'cancelled') throw new Error(line.error);
    await new Promise((done) => setTimeout(done, LOOK_MS));
  }
}
