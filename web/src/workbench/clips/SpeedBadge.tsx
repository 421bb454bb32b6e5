import type { Clip } from '../../reel/document';
import { formatSigned } from '../values/values';

/** At what speed and pitch a clip plays; nothing if it plays as it was recorded. */
export function SpeedBadge({ clip, percent }: { clip: Clip; percent: number | undefined }) {
  const { semitones = 0, cents = 0, pitch } = clip.speed ?? {};
  const moving = typeof semitones !== 'number' || typeof cents !== 'number';
  const shift = moving ? undefined : semitones + cents / 100;
  const words = [
    percent === undefined ? '' : `${Number(percent.toFixed(1))} %`,
    moving ? 'pitch moves' : shift ? `${formatSigned(shift)} st` : '',
  ].filter(Boolean);
  if (!words.length) return null;
  const title =
    percent === undefined
      ? 'Pitch'
      : `Speed, its pitch ${pitch === 'follow' ? 'following' : 'held'}`;
  return (
    <span className="speed-badge number" title={title}>
      {words.join(' ')}
    </span>
  );
}
