/**
 * The stretch that clips and treatments are laid out for.
 *
 * Laying out a thousand of them takes longer than a frame. While one zooms or scrolls, what is
 * there is shifted and stretched at once, and laid out anew in between, without holding up frames.
 */
import {
  createContext,
  startTransition,
  useCallback,
  useContext,
  useEffect,
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
  type ReactNode,
} from 'react';
import { useView } from './view';

/** A first sample and samples a pixel. */
export interface Laid {
  start: number;
  scale: number;
}

interface Shown extends Laid {
  width: number;
}

const ShownContext = createContext<Shown | undefined>(undefined);
const SeenContext = createContext<() => Laid>(() => useView.getState());

/** So much longer than laying out takes is waited before it is done again. */
const REST = 4;
const LONGEST_REST_MS = 600;

export function ShownView({ children }: { children: ReactNode }) {
  const [shown, setShown] = useState<Shown>(now);
  const timing = useRef({ began: 0, done: 0, cost: 0 });
  useLayoutEffect(() => {
    // Until the browser has drawn it, too: that is the greater part.
    const drawn = () => {
      const t = timing.current;
      t.done = performance.now();
      if (t.began) t.cost = t.done - t.began;
    };
    timing.current.done = Infinity;
    const frame = requestAnimationFrame(() => setTimeout(drawn));
    return () => {
      cancelAnimationFrame(frame);
    };
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
      const since = Math.min(done, performance.now());
      timer = setTimeout(lay, Math.max(0, since + rest - performance.now()));
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

/** Another stretch for what is within: a part that is drawn larger. */
export function ShownAt(props: Shown & { children: ReactNode }) {
  const { start, scale, width, children } = props;
  const shown = useMemo(() => ({ start, scale, width }), [start, scale, width]);
  const around = useShown().scale;
  // It is stretched along with what it lies in.
  const seen = useCallback(
    () => ({ start, scale: (scale * useView.getState().scale) / around }),
    [start, scale, around],
  );
  return (
    <ShownContext value={shown}>
      <SeenContext value={seen}>{children}</SeenContext>
    </ShownContext>
  );
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

/** @returns What tells the stretch as it is seen now: what is laid out for may be late. */
export function useSeen(): () => Laid {
  return useContext(SeenContext);
}

/** Pixel of a sample within what follows the view. */
export function useShownX(): (sample: number) => number {
  const { start, scale } = useShown();
  return (sample) => (sample - start) / scale;
}

interface FollowingProps {
  /** What it is laid out for, if not for the stretch shown. */
  laid?: Laid;
  children: ReactNode;
}

/** What has been laid out once, moved to where the view has gone since. */
export function Following({ laid, children }: FollowingProps) {
  const box = useRef<HTMLDivElement>(null);
  const shown = useShown();
  const { start: from, scale: by } = laid ?? shown;
  useLayoutEffect(() => {
    const place = () => {
      const { start, scale } = useView.getState();
      const same = start === from && scale === by;
      if (box.current)
        box.current.style.transform = same
          ? ''
          : `translateX(${(from - start) / scale}px) scaleX(${by / scale})`;
    };
    place();
    return useView.subscribe(place);
  }, [from, by]);
  return (
    <div className="following" ref={box}>
      {children}
    </div>
  );
}
