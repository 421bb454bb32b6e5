import { useState, type KeyboardEvent, type PointerEvent } from 'react';
import { follow } from '../hand/pointer';

interface Props {
  label: string;
  /** Name under which the browser keeps the size. */
  kept: string;
  /** The style property of the page that holds it, in pixels. */
  property: string;
  /** Dragged up and down, or from side to side. */
  along: 'x' | 'y';
  low: number;
  high: number;
}

const STEP = 16;

/** Put back the sizes that have been chosen. */
export function restoreSize(kept: string, property: string) {
  const size = Number(localStorage.getItem(kept));
  if (size > 0) window.document.documentElement.style.setProperty(property, `${size}px`);
}

/** The edge of a part of the page, by which it is made larger or smaller; a double click resets. */
export function Splitter({ label, kept, property, along, low, high }: Props) {
  const [size, setSize] = useState(() => Number(localStorage.getItem(kept)) || 0);
  const page = window.document.documentElement;
  const set = (wanted: number, keep = true) => {
    const px = Math.round(Math.max(low, Math.min(high, wanted)));
    page.style.setProperty(property, `${px}px`);
    setSize(px);
    if (keep) localStorage.setItem(kept, String(px));
  };
  const reset = () => {
    page.style.removeProperty(property);
    localStorage.removeItem(kept);
    setSize(0);
  };
  /** As it is on the screen: of what is before the edge. */
  const now = (edge: Element) => {
    const before = edge.previousElementSibling ?? edge.parentElement!;
    const box = before.getBoundingClientRect();
    return along === 'x' ? box.width : box.height;
  };
  const down = (e: PointerEvent<HTMLElement>) => {
    if (e.button !== 0) return;
    e.preventDefault();
    const from = along === 'x' ? e.clientX : e.clientY;
    const first = now(e.currentTarget);
    const at = (m: globalThis.PointerEvent) =>
      first + (along === 'x' ? m.clientX : m.clientY) - from;
    follow(e, {
      moved: (m) => set(at(m), false),
      up: (m) => at(m) !== first && set(at(m)),
      lost: () => (size ? set(size) : reset()),
    });
  };
  const press = (e: KeyboardEvent<HTMLElement>) => {
    const by = { ArrowLeft: -1, ArrowUp: -1, ArrowRight: 1, ArrowDown: 1 }[e.key];
    if (by === undefined) return;
    e.preventDefault();
    e.stopPropagation();
    set(now(e.currentTarget) + by * STEP);
  };
  // A separator that can be moved is something to take hold of, by keys as well (ARIA 1.2).
  /* eslint-disable jsx-a11y/no-noninteractive-element-interactions, jsx-a11y/no-noninteractive-tabindex */
  return (
    <span
      className="splitter"
      data-along={along}
      role="separator"
      tabIndex={0}
      aria-label={label}
      aria-orientation={along === 'x' ? 'vertical' : 'horizontal'}
      aria-valuenow={size}
      aria-valuemin={low}
      aria-valuemax={high}
      title={`${label}: drag; double click resets`}
      onPointerDown={down}
      onKeyDown={press}
      onDoubleClick={reset}
    />
  );
}
