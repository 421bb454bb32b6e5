import type { EffectTable } from '../../api/client';

export type Hatch = EffectTable['hatch'];

/** One tile of a hatch, before it is turned: a path, and whether it is filled. */
export interface Tile {
  width: number;
  height: number;
  path: string;
  filled: boolean;
}

const sum = (lengths: number[]) => lengths.reduce((a, b) => a + b, 0);

/** A wave through the middle of a tile, as long as it is high and as high again. */
function wave(length: number, height: number): string {
  const y = height / 2;
  return `M0 ${y}Q${length / 4} ${-y / 4} ${length / 2} ${y}T${length} ${y}`;
}

function circle(x: number, y: number, r: number): string {
  return `M${x - r} ${y}a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0`;
}

/** The tile that repeats; any pattern that an effect names can be drawn. */
export function tile({ kind, spacing: s, weight, dash }: Hatch): Tile {
  // A dash begins anew with each tile, so a tile holds whole ones.
  const whole = sum(dash);
  switch (kind) {
    case 'lines':
      return { width: whole || s, height: s, path: `M0 ${s / 2}H${whole || s}`, filled: false };
    case 'waves':
      return { width: 2 * s, height: s, path: wave(2 * s, s), filled: false };
    case 'crossed':
      return { width: s, height: s, path: `M0 ${s / 2}H${s}M${s / 2} 0V${s}`, filled: false };
    case 'steps':
      return {
        width: 2 * s,
        height: s,
        path: `M0 ${0.75 * s}H${s}V${0.25 * s}H${2 * s}V${0.75 * s}`,
        filled: false,
      };
    case 'rings':
      return { width: s, height: s, path: circle(s / 2, s / 2, 0.34 * s), filled: false };
    case 'dots':
      return { width: s, height: s, path: circle(s / 2, s / 2, weight / 2), filled: true };
  }
}
