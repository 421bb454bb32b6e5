import { useEffect } from 'react';

/**
 * A list from which one comes gives the focus back to where it was, some time after it has gone:
 * what is wanted is focused until that has stayed so.
 */
const LOOK_MS = 30;
const STAYED = 3;
const MOST_LOOKS = 40;

/** Focus what somebody has looked for, so that Enter does it. */
export function useFocusWanted(
  wanted: boolean | undefined,
  find: () => HTMLElement | null | undefined,
) {
  useEffect(() => {
    if (!wanted) return undefined;
    let [looks, stayed] = [0, 0];
    const leave = () => {
      clearInterval(timer);
      window.removeEventListener('keydown', leave, true);
      window.removeEventListener('pointerdown', leave, true);
    };
    const timer = setInterval(() => {
      const it = find();
      stayed = it && document.activeElement === it ? stayed + 1 : 0;
      if (stayed === STAYED || ++looks === MOST_LOOKS) leave();
      else it?.focus({ preventScroll: true });
    }, LOOK_MS);
    // Whoever goes on somewhere else by then is left there.
    window.addEventListener('keydown', leave, true);
    window.addEventListener('pointerdown', leave, true);
    return leave;
    // Only what was looked for when it opened takes the focus.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);
}
