import { memo } from 'react';
import type { EffectTable } from '../../api/client';
import { tile } from './hatch';

interface Props {
  effects: EffectTable[];
}

/** Tints by depth, and a hatch for each effect, so that colour is never the only sign. */
export const Patterns = memo(function Patterns({ effects }: Props) {
  return (
    <svg width="0" height="0" style={{ position: 'absolute' }} aria-hidden="true">
      <defs>
        {[0, 1, 2, 3, 4].map((level) => (
          <linearGradient key={level} id={`depth-${level}`} x1="0" y1="0" x2="0" y2="1">
            <stop offset="0" stopColor="var(--depth-1)" />
            <stop offset="1" stopColor={`var(--depth-${Math.max(1, Math.min(3, level))})`} />
          </linearGradient>
        ))}
        {effects.map(({ id, hatch }) => {
          const { width, height, path, filled } = tile(hatch);
          return (
            <pattern
              key={id}
              id={`hatch-${id}`}
              width={width}
              height={height}
              patternUnits="userSpaceOnUse"
              patternTransform={`rotate(${hatch.angle})`}
            >
              <path
                d={path}
                data-filled={filled || undefined}
                strokeWidth={hatch.weight}
                strokeDasharray={hatch.dash.join(' ') || undefined}
              />
            </pattern>
          );
        })}
      </defs>
    </svg>
  );
});
