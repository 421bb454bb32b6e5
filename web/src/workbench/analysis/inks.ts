/** Colours of the theme, for what is painted. */
import { inkOf } from '../axis/ink';
import type { Inks } from './looks/look';

export function inksOf(element: Element, scheme: string): Inks {
  const ink = (name: string) => inkOf(element, name, scheme);
  return {
    ink: ink('--ink'),
    quiet: ink('--ink-2'),
    line: ink('--line'),
    paper: ink('--paper'),
    main: ink('--depth-5'),
    soft: ink('--line-strong'),
    moves: ink('--moves'),
    numbers: ink('--numbers'),
  };
}
