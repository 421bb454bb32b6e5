import { useEffect } from 'react';

/** A list from which one comes gives the focus back to where it was, a moment after it has gone. */
const GIVEN_BACK_MS = 60;

/** Focus what somebody has looked for, so that Enter does it. */
export function useFocusWanted(
  wanted: boolean | undefined,
  find: () => HTMLElement | null | undefined,
) {
  useEffect(() => {
    if (!wanted) return undefined;
    const timer = setTimeout(() => {
      // Whoever types somewhere else by now goes on typing there.
      if (document.activeElement?.matches('input, textarea')) return;
      find()?.focus({ preventScroll: true });
    }, GIVEN_BACK_MS);
    return () => clearTimeout(timer);
    // Only what was looked for when it opened takes the focus.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);
}
