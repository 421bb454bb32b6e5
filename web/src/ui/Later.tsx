import { useEffect, useState, type ReactNode } from 'react';

/** Shows its children some frames later, so that a large screen does not come in one long step. */
export function Later(props: { frames: number; until?: ReactNode; children: ReactNode }) {
  const { frames, until = null, children } = props;
  const [left, setLeft] = useState(frames);
  useEffect(() => {
    if (left === 0) return;
    const next = requestAnimationFrame(() => setLeft(left - 1));
    return () => cancelAnimationFrame(next);
  }, [left]);
  return left === 0 ? children : until;
}
