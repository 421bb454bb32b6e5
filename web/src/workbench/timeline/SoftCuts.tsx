import type { Shot } from '../../reel/document';
import { useTools } from '../tools/context';
import { useView, useX } from '../axis/view';
import { useReel } from '../../reel/useReel';

/** Dissolves and fades over the strip of shots, as long as they last. */
export function SoftCuts() {
  const { clock } = useTools();
  const shots = useReel((d) => d.picture?.shots);
  const x = useX();
  const { width } = useView();
  return (shots ?? []).filter(isSoft).map((shot) => {
    const first = shot.frame - Math.floor(shot.length / 2);
    const left = x(clock.sampleOfFrame(Math.max(0, first)));
    const right = x(clock.sampleOfFrame(first + shot.length));
    if (right < 0 || left > width) return null;
    return (
      <svg
        key={shot.frame}
        className="soft-cut"
        style={{ left, width: Math.max(6, right - left) }}
        viewBox="0 0 10 10"
        preserveAspectRatio="none"
        role="img"
      >
        <title>
          {`${shot.kind} of ${shot.length} frames around ${clock.timecodeOfFrame(shot.frame)}`}
        </title>
        {/* What goes above, what comes below: at once in a dissolve, one by one in a fade. */}
        <path d={shot.kind === 'dissolve' ? 'M0 0 L10 5 L0 5 Z' : 'M0 0 L5 5 L0 5 Z'} />
        <path d={shot.kind === 'dissolve' ? 'M0 5 L10 5 L10 10 Z' : 'M5 5 L10 5 L10 10 Z'} />
      </svg>
    );
  });
}

function isSoft(shot: Shot): shot is Shot & { length: number } {
  return (shot.kind === 'dissolve' || shot.kind === 'fade') && (shot.length ?? 0) > 1;
}
