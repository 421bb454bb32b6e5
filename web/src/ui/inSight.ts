import { useEffect, useState, type RefObject } from 'react';

/** How far outside the window something is drawn already. */
const MARGIN = '400px';

/** Whether an element is in the window or close to it; what is not need not be drawn. */
export function useInSight(element: RefObject<HTMLElement | null>): boolean {
  const [inSight, setInSight] = useState(false);
  useEffect(() => {
    const target = element.current;
    if (!target) return;
    const watch = new IntersectionObserver(
      (entries) => setInSight(entries[entries.length - 1]!.isIntersecting),
      { rootMargin: MARGIN },
    );
    watch.observe(target);
    return () => watch.disconnect();
  }, [element]);
  return inSight;
}
