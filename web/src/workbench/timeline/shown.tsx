/**
 * The stretch that clips and treatments are laid out for.
 *
 * Laying out a thousand of them takes longer than a frame. While one zooms or scrolls, what is
 * there is shifted and stretched at once, and laid out anew in between, without holding up frames.
 */
import {
  createContext,
  startTransition,
  useContext,
  useEffect,
  useLayoutEffect,
  useRef,
  useState,
  type ReactNode,
} from 'react';
import { useView } from './view';

interface Shown {
  start: number;
  scale: number;
  width: number;
}

const ShownContext = createContext<Shown | undefined>(undefined);

/** So much longer than laying out takes is waited before it is done again. */
const REST = 3;
const LONGEST_REST_MS = 400;

export function ShownView({ children }: { children: ReactNode }) {
  const [shown, setShown] = useState<Shown>(now);
  const timing = useRef({ began: 0, done: 0, cost: 0 });
  useLayoutEffect(() => {
    const t = timing.current;
    t.done = performance.now();
    if (t.began) t.cost = t.done - t.began;
  }, [shown]);
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | undefined;
    const lay = () => {
      timer = undefined;
      timing.current.began = performance.now();
      startTransition(() => setShown(now()));
    };
    const moved = () => {
      if (timer !== undefined) return;
      const { done, cost } = timing.current;
      const rest = Math.min(LONGEST_REST_MS, REST * cost);
      timer = setTimeout(lay, Math.max(0, done + rest - performance.now()));
    };
    moved();
    const stop = useView.subscribe(moved);
    return () => {
      stop();
      clearTimeout(timer);
    };
  }, []);
  return <ShownContext value={shown}>{children}</ShownContext>;
}

function now(): Shown {
  const { start, scale, width } = useView.getState();
  return { start, scale, width };
}

export function useShown(): Shown {
  const shown = useContext(ShownContext);
  if (!shown) throw new Error('The timeline is not open.');
  return shown;
}

/** Pixel of a sample within what follows the view. */
export function useShownX(): (sample: number) => number {
  const { start, scale } = useShown();
  return (sample) => (sample - start) / scale;
}

/** What is laid out for the shown stretch, moved to where the view has gone since. */
export function Following({ children }: { children: ReactNode }) {
  const box = useRef<HTMLDivElement>(null);
  const shown = useShown();
  useLayoutEffect(() => {
    const place = () => {
      const { start, scale } = useView.getState();
      const same = start === shown.start && scale === shown.scale;
      const by = (shown.start - start) / scale;
      if (box.current)
        box.current.style.transform = same
          ? ''
          : `translateX(${by}px) scaleX(${shown.scale / scale})`;
    };
    place();
    return useView.subscribe(place);
  }, [shown]);
  return (
    <div className="following" ref={box}>
      {children}
    </div>
  );
}
