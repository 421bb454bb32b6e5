/** A run of poses as one types it: names of poses, or values of the lane in hand. */
import type { Pose } from '../../reel/document';
import { newId } from '../../ui/ids';
import { readValue } from '../../typed/values';
import type { Lane } from './lanes';

export type Run =
  | {
      ok: true;
      ids: string[];
      /** Poses that the run names and that are not there yet. */
      make: { id: string; name: string; values: Record<string, number> }[];
      lanes: Set<string>;
    }
  | { ok: false; why: string };

export function readRun(text: string, poses: Pose[], lane: Lane): Run {
  const words = text
    .split(/[,;]/)
    .map((word) => word.trim())
    .filter((word) => word !== '');
  if (!words.length) return { ok: false, why: 'Type names or values, with commas between them.' };
  const make: { id: string; name: string; values: Record<string, number> }[] = [];
  const ids: string[] = [];
  const lanes = new Set<string>();
  for (const word of words) {
    const name = word.toLowerCase();
    const known =
      poses.find((p) => p.name?.toLowerCase() === name) ??
      make.find((p) => p.name.toLowerCase() === name);
    if (known) {
      ids.push(known.id);
      for (const l of Object.keys(known.values ?? {})) lanes.add(l);
      continue;
    }
    const { value, why } = readValue({ ...lane.parameter, low: lane.lowest }, word);
    if (why !== undefined) return { ok: false, why: `There is no pose “${word}”; else ${why}.` };
    const pose = { id: newId('p'), name: word, values: { [lane.name]: value } };
    make.push(pose);
    ids.push(pose.id);
    lanes.add(lane.name);
  }
  return { ok: true, ids, make, lanes };
}
