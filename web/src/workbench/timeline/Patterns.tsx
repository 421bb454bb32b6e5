/** Tints by depth and hatching by kind of effect, so that colour is never the only sign. */
export function Patterns() {
  return (
    <svg width="0" height="0" style={{ position: 'absolute' }} aria-hidden="true">
      <defs>
        {[0, 1, 2, 3, 4].map((level) => (
          <linearGradient key={level} id={`depth-${level}`} x1="0" y1="0" x2="0" y2="1">
            <stop offset="0" stopColor="var(--depth-1)" />
            <stop offset="1" stopColor={`var(--depth-${Math.max(1, Math.min(3, level))})`} />
          </linearGradient>
        ))}
        <pattern id="hatch-muffle" width="14" height="7" patternUnits="userSpaceOnUse">
          <path d="M0 3.5 h14" />
        </pattern>
        <pattern id="hatch-echo" width="12" height="12" patternUnits="userSpaceOnUse">
          <path d="M3 0 v12 M7 3 v6" />
        </pattern>
        <pattern id="hatch-gain" width="10" height="10" patternUnits="userSpaceOnUse">
          <path d="M0 10 L10 0" />
        </pattern>
        <pattern id="hatch-none" width="8" height="8" patternUnits="userSpaceOnUse">
          <path d="M0 0" />
        </pattern>
      </defs>
    </svg>
  );
}
