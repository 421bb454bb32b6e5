/** Whoever types a value is about to set it. */
import { useEffect, useRef } from 'react';
import { makeReady } from './gesture';

/** Who has typed nothing for so long may be thinking of something else. */
const THINKS_MS = 5000;

interface Expecting {
  /** A key of it has been typed. */
  typing: () => void;
  /** It has been kept or given up. */
  typed: () => void;
}

/** What is typed is heard as soon as it is kept: the server makes ready while it is being typed. */
export function useExpecting(): Expecting {
  const over = useRef<() => void>(undefined);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const typed = () => {
    clearTimeout(timer.current);
    over.current?.();
    over.current = undefined;
  };
  const typing = () => {
    clearTimeout(timer.current);
    timer.current = setTimeout(typed, THINKS_MS);
    over.current ??= makeReady();
  };
  useEffect(
    () => () => {
      clearTimeout(timer.current);
      over.current?.();
    },
    [],
  );
  return { typing, typed };
}
