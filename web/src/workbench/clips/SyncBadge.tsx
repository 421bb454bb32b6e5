import { useSession } from '../../reel/session';

const ROOM_PX = 150;

/** By how many frames a clip's sound is out against its picture; nothing if it is in sync. */
export function SyncBadge({ clip, room }: { clip: string; room: number }) {
  const found = useSession((s) => s.derived?.sync[clip]);
  if (!found || found.samples === 0 || room < ROOM_PX) return null;
  return (
    <span className="sync-badge number" data-eye={found.eye} title={syncText(found)}>
      {signed(found.frames)} f
    </span>
  );
}

interface Offset {
  frames: number;
  ms: number;
  eye: string;
  begins: number;
  ends: number;
}

const EYES: Record<string, string> = {
  unnoticed: 'hardly noticeable',
  noticed: 'noticeable',
  disturbing: 'out of sync',
};

/** "4 frames (160 ms) late: the eye notices". */
export function syncText({ frames, ms, eye, begins, ends }: Offset): string {
  if (eye === 'in sync') return 'In sync with the picture';
  if (begins !== ends)
    return `Its speed takes it from ${signed(begins)} f to ${signed(ends)} f against the picture: ${EYES[eye] ?? eye}`;
  const count = Math.abs(frames);
  const word = count === 1 ? 'frame' : 'frames';
  const size = `${Number(count.toFixed(2))} ${word} (${Math.abs(Math.round(ms))} ms)`;
  return `${size} ${frames > 0 ? 'late' : 'early'}: ${EYES[eye] ?? eye}`;
}

function signed(frames: number): string {
  return `${frames > 0 ? '+' : '−'}${Number(Math.abs(frames).toFixed(1))}`;
}
