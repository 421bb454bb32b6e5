/** The box that is drawn around keyframes, across lanes, and the shift all selected ones share. */
import { create } from 'zustand';
import type { Key, Shift } from './keys';

export interface Box {
  x: number;
  y: number;
  toX: number;
  toY: number;
}

interface Drawn {
  box: Box | undefined;
  /** While keyframes are dragged: every lane shows its own on the way. */
  shift: Shift | undefined;
  draw: (box: Box | undefined) => void;
  setShift: (shift: Shift | undefined) => void;
}

export const useBox = create<Drawn>()((set) => ({
  box: undefined,
  shift: undefined,
  draw: (box) => set({ box }),
  setShift: (shift) => set({ shift }),
}));

/** The keyframes that are drawn within a box of the window. */
export function boxed(box: Box): Key[] {
  const [left, right] = [Math.min(box.x, box.toX), Math.max(box.x, box.toX)];
  const [top, bottom] = [Math.min(box.y, box.toY), Math.max(box.y, box.toY)];
  return [...document.querySelectorAll<HTMLElement>('[data-key]')].flatMap((element) => {
    const r = element.getBoundingClientRect();
    const x = r.left + r.width / 2;
    const y = r.top + r.height / 2;
    if (x < left || x > right || y < top || y > bottom) return [];
    return { lane: element.dataset['keyLane']!, at: Number(element.dataset['key']) };
  });
}
