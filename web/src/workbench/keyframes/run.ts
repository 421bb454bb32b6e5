/** A run of poses as one types it: names of poses, or values of the lane in hand. */
import type { Pose } from '../../reel/document';
import { newId } from '../../ui/ids';
import { readValue } from '../values/values';
import type { Lane } from './lanes';

const SIDES: Record<string, number> = { left: -100, right: 100, both: 0, middle: 0, centre: 0 };

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
    const side = lane.parameter.id === 'pan' || lane.parameter.id === 'position';
    const value = (side ? SIDES[name] : undefined) ?? readValue(lane.parameter, word);
    if (value === undefined)
      return { ok: false, why: `“${word}” is neither a pose nor a value of ${lane.label}.` };
    const pose = { id: newId('p'), name: word, values: { [lane.name]: value } };
    make.push(pose);
    ids.push(pose.id);
    lanes.add(lane.name);
  }
  return { ok: true, ids, make, lanes };
}
