import { useEffect } from 'react';
import { useLeftTab } from './leftTab';

/**
 * A list from which one comes gives the focus back to where it was, some time after it has gone:
 * what is wanted is focused until that has stayed so.
 */
const LOOK_MS = 30;
const STAYED = 3;
const MOST_LOOKS = 40;
/** Up to which time of asking the focus has been given, or is no longer wanted. */
let done = 0;

/** Focus what somebody has looked for, so that Enter does it: once, however often it is drawn. */
export function useFocusWanted(
  wanted: boolean | undefined,
  find: () => HTMLElement | null | undefined,
) {
  useEffect(() => {
    const time = useLeftTab.getState().wanted?.time ?? 0;
    if (!wanted || time <= done) return undefined;
    let [looks, stayed] = [0, 0];
    const stop = () => {
      clearInterval(timer);
      for (const kind of ['keydown', 'pointerdown', 'input'])
        window.removeEventListener(kind, leave, true);
    };
    const leave = () => {
      done = time;
      stop();
    };
    const timer = setInterval(() => {
      const it = find();
      stayed = it && document.activeElement === it ? stayed + 1 : 0;
      if (stayed === STAYED || ++looks === MOST_LOOKS) leave();
      else it?.focus({ preventScroll: true });
    }, LOOK_MS);
    // Whoever goes on somewhere else by then is left there.
    for (const kind of ['keydown', 'pointerdown', 'input'])
      window.addEventListener(kind, leave, true);
    return stop;
    // Only what was looked for when it opened takes the focus.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);
}
