import { useVirtualizer } from '@tanstack/react-virtual';
import { useRef, type ReactNode } from 'react';

const ROW = 34;
const SHORT = 60;

/** A list whose lines are made only when they come into sight, once it is long. */
export function LongList({ count, line }: { count: number; line: (i: number) => ReactNode }) {
  if (count <= SHORT) return <ul>{Array.from({ length: count }, (_, i) => line(i))}</ul>;
  return <Windowed count={count} line={line} />;
}

function Windowed({ count, line }: { count: number; line: (i: number) => ReactNode }) {
  const box = useRef<HTMLDivElement>(null);
  const rows = useVirtualizer({
    count,
    getScrollElement: () => box.current,
    estimateSize: () => ROW,
    overscan: 6,
  });
  const shown = rows.getVirtualItems();
  // What scrolls must be reached by keys to be scrolled by them (WCAG 2.1.1).
  /* eslint-disable jsx-a11y/no-noninteractive-tabindex */
  return (
    <div className="long-list" ref={box} tabIndex={0} role="group" aria-label={`${count} lines`}>
      <div style={{ height: rows.getTotalSize() }}>
        <ul style={{ transform: `translateY(${shown[0]?.start ?? 0}px)` }}>
          {shown.map((item) => line(item.index))}
        </ul>
      </div>
    </div>
  );
}
