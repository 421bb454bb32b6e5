/**
 * A hand that is near something that is heard is about to change it: while the reel plays the server
 * makes ready for that, as it does while a value is typed.
 *
 * What is heard stands in an element with `data-heard`. Near is a pointer over a control of it, and
 * a key in one.
 */
import { usePlayer } from '../player/player';
import { useSession } from '../reel/session';
import { makeReady } from './gesture';

/** A hand that rests for so long does something else. */
const RESTS_MS = 3000;
/** So long what has been done has the server for itself. */
const DONE_MS = 1500;

const CONTROLS = 'button, input, select, [role=slider], [role=switch], [tabindex="0"]';
const SIGNS = ['pointerover', 'pointermove', 'focusin', 'keydown'] as const;

/** Make ready whenever a hand comes near; gives what ends that. */
export function watchApproach(): () => void {
  let near = false;
  let ready: (() => void) | undefined;
  let resting: ReturnType<typeof setTimeout> | undefined;
  let done: ReturnType<typeof setTimeout> | undefined;

  const arm = () => {
    if (!near || ready || !usePlayer.getState().playing || useSession.getState().draft) return;
    ready = makeReady();
  };
  const disarm = () => {
    ready?.();
    ready = undefined;
  };
  const rest = () => {
    near = false;
    disarm();
  };
  const sign = ({ target }: Event) => {
    if (!(target instanceof Element) || !target.closest('[data-heard]')) return;
    if (!target.closest(CONTROLS)) return;
    near = true;
    clearTimeout(resting);
    resting = setTimeout(rest, RESTS_MS);
    // Just after something has been done, what comes of that goes before.
    if (!done) arm();
  };
  for (const kind of SIGNS) window.addEventListener(kind, sign, { capture: true, passive: true });
  const leave = [
    usePlayer.subscribe((now, before) => {
      if (now.playing === before.playing) return;
      if (now.playing) arm();
      else disarm();
    }),
    useSession.subscribe((now, before) => {
      if (now.draft || !before.draft) return;
      disarm();
      if (!before.draft.commands.length) {
        // Pressed, and nothing done. Others who listen hear of the end first.
        if (!done) setTimeout(arm);
        return;
      }
      clearTimeout(done);
      done = setTimeout(() => {
        done = undefined;
        arm();
      }, DONE_MS);
    }),
  ];
  return () => {
    for (const kind of SIGNS) window.removeEventListener(kind, sign, { capture: true });
    for (const l of leave) l();
    clearTimeout(resting);
    clearTimeout(done);
    rest();
  };
}
