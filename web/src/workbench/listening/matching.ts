/**
 * Lets the other side be heard as loud as the reel: what is louder sounds better at first.
 *
 * Both are measured over what is in view, or over the loop, from the first time that one compares;
 * the treated side always plays as it will be exported.
 */
import { create } from 'zustand';
import { client, unwrap } from '../../api/client';
import { usePlayer, type Player } from '../../player/player';
import { useSession } from '../../reel/session';
import { useView } from '../axis/view';

const REST_MS = 350;
const MOST_DB = 40;
const KEPT_KEY = 'bathyphon.match-loudness';

interface Matching {
  /** Whether levels are matched at all. */
  on: boolean;
  /** Whether anybody compares: until then nothing is measured. */
  wanted: boolean;
  /** How much of the stretch has been measured, 0 to 1. */
  share: number;
  turn: (on: boolean) => void;
  want: () => void;
}

export const useMatching = create<Matching>()((set) => ({
  on: localStorage.getItem(KEPT_KEY) !== 'no',
  wanted: false,
  share: 0,
  turn: (on) => {
    localStorage.setItem(KEPT_KEY, on ? 'yes' : 'no');
    set({ on });
  },
  want: () => set({ wanted: true }),
}));

/** Keep the other side matched; gives what ends that. */
export function keepMatched(reel: string, player: Player): () => void {
  let timer: ReturnType<typeof setTimeout> | undefined;
  let asked = 0;
  useMatching.setState({ wanted: false, share: 0 });

  const measure = async () => {
    const mine = ++asked;
    const { on, wanted } = useMatching.getState();
    if (!on) player.setMatch(0);
    if (!on || !wanted) return;
    const { against, loop } = usePlayer.getState();
    if (against.plain) {
      player.setMatch(0);
      useMatching.setState({ share: 1 });
      return;
    }
    const { start, scale, width, length } = useView.getState();
    const first = Math.max(0, Math.round(loop?.start ?? start));
    const stop = Math.min(length, Math.round(loop?.end ?? start + scale * width));
    if (stop <= first) return;
    const sides = [{ treated: true }, { treated: true, ...against.state }].map((s) => ({
      ...s,
      commands: [...('commands' in s ? (s.commands ?? []) : [])] as Record<string, unknown>[],
    }));
    for (let share = 0; share < 1;) {
      let levels;
      try {
        levels = await unwrap(
          client.POST('/api/reels/{id}/levels', {
            params: { path: { id: reel } },
            body: { sides, start: first, stop },
          }),
        );
      } catch {
        // The next change asks again.
        return;
      }
      if (mine !== asked) return;
      share = Math.min(...levels.map((l) => l.share));
      useMatching.setState({ share });
      const [here, there] = levels.map((l) => l.loudness ?? undefined);
      const match = here === undefined || there === undefined ? 0 : here - there;
      player.setMatch(Math.max(-MOST_DB, Math.min(MOST_DB, match)));
    }
  };
  const soon = () => {
    // What is known, and what is being measured, is of something else now.
    asked++;
    // Where nobody compares nothing is drawn anew.
    if (useMatching.getState().share > 0) useMatching.setState({ share: 0 });
    clearTimeout(timer);
    timer = setTimeout(() => void measure(), REST_MS);
  };
  const leave = [
    usePlayer.subscribe((now, before) => {
      if (now.side !== 'treated' && before.side === 'treated') useMatching.getState().want();
      if (now.against !== before.against || now.loop !== before.loop) soon();
    }),
    useView.subscribe(soon),
    useSession.subscribe((now, before) => {
      if (now.committed.revision !== before.committed.revision) soon();
    }),
    useMatching.subscribe((now, before) => {
      if (now.on !== before.on || now.wanted !== before.wanted) void measure();
    }),
  ];
  return () => {
    asked++;
    clearTimeout(timer);
    for (const l of leave) l();
  };
}

/** A gain as it is said: “+4.1 dB”. */
export function dbText(db: number): string {
  const rounded = Math.abs(db) < 0.05 ? 0 : db;
  const sign = rounded > 0 ? '+' : rounded < 0 ? '−' : '±';
  return `${sign}${Math.abs(rounded).toFixed(1)} dB`;
}
