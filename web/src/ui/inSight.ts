import { useEffect, useState, type RefObject } from 'react';

/** How far outside of what is in sight something is drawn already. */
const MARGIN = '400px';

/**
 * Whether an element is in sight or close to it; what is not need not be drawn.
 *
 * `scroller`: a selector of what it is scrolled within; a margin counts around nothing else.
 */
export function useInSight(element: RefObject<HTMLElement | null>, scroller: string): boolean {
  const [inSight, setInSight] = useState(false);
  useEffect(() => {
    const target = element.current;
    if (!target) return;
    const watch = new IntersectionObserver(
      (entries) => setInSight(entries[entries.length - 1]!.isIntersecting),
      { root: target.closest(scroller), rootMargin: MARGIN },
    );
    watch.observe(target);
    return () => watch.disconnect();
  }, [element, scroller]);
  return inSight;
}
