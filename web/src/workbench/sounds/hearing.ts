/** The one computed sound that is listened to by itself. */
import { create } from 'zustand';
import { csrfToken, refusal } from '../../api/client';
import type { Player } from '../../player/player';
import type { WantedSound } from './shelf';

interface Hearing {
  /** Id of the sound. */
  of: string | undefined;
  waiting: boolean;
}

export const useHearing = create<Hearing>()(() => ({ of: undefined, waiting: false }));
let audio: HTMLAudioElement | undefined;
let asked: AbortController | undefined;

export function stopHearing() {
  asked?.abort();
  asked = undefined;
  audio?.pause();
  if (audio) URL.revokeObjectURL(audio.src);
  audio = undefined;
  useHearing.setState({ of: undefined, waiting: false });
}

/** Hear the beginning of a sound, with the settings that it has now. */
export async function hear(player: Player, wanted: WantedSound): Promise<void> {
  stopHearing();
  player.pause();
  const mine = (asked = new AbortController());
  useHearing.setState({ of: wanted.sound.id, waiting: true });
  try {
    const { model, settings, seed } = wanted;
    const response = await fetch('/api/sounds/heard.wav', {
      method: 'POST',
      headers: { 'Content-Type': 'application/json', 'X-CSRFToken': csrfToken() },
      body: JSON.stringify({ model: model.id, settings, seed }),
      signal: mine.signal,
    });
    if (!response.ok) throw refusal(await response.json(), response.status);
    const wave = await response.blob();
    if (mine.signal.aborted) return;
    audio = new Audio(URL.createObjectURL(wave));
    audio.onended = stopHearing;
    useHearing.setState({ waiting: false });
    await audio.play();
  } catch (error) {
    if (mine.signal.aborted) return;
    stopHearing();
    throw error;
  }
}
