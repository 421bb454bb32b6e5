/** Lanes: every value that may move, by the name that commands call it. */
import type { EffectTable, ParameterTable } from '../../api/client';
import { pointsIn, valueOn, type Scale } from '../../reel/curve';
import {
  findChain,
  firstValue,
  trackOf,
  type Keyframe,
  type Movable,
  type ReelDocument,
} from '../../reel/document';
import { isMovable, parameterOf, valueOf } from '../values/params';
import { shareOf, valueAt } from '../values/values';
import values from './values.json';

export interface Lane {
  name: string;
  /** `treatment:ID`, `clip:ID`, `track:ID` or `mix`. */
  owner: string;
  /** The track it is drawn under; none for the mix. */
  track: string | undefined;
  label: string;
  /** Whose value it is. */
  of: string;
  parameter: ParameterTable;
  value: Movable;
  points: Keyframe[];
  /** The least that its value may be. */
  lowest: number;
  /** Sample of the reel that its keyframes count from. */
  origin: number;
}

/** Ranges and words of what moves beside effects, as the core has them (core/edits/movable.py). */
function table(value: (typeof values)[keyof typeof values]): ParameterTable {
  const plain = { counts_for: null, neutral: 0, follows: '', movable: true, whole: false };
  return { ...plain, ...value, choices: [] };
}
export const STRENGTH = table(values.strength);
export const LEVEL = table(values.gain_db);
export const PAN = table(values.pan);
export const SPEED = table(values.percent);
export const SEMITONES = table(values.semitones);
export const CENTS = table(values.cents);
export const FORMANTS = table(values.formant_shift);
/** The one that has a range and does not move. */
export const RING_OUT = table(values.ring_out);
const SPEEDS = [SPEED, SEMITONES, CENTS, FORMANTS];

/** The lane of that name, or nothing if what it belongs to is no longer there. */
export function laneOf(
  document: ReelDocument,
  effects: EffectTable[],
  name: string,
): Lane | undefined {
  const [owner = '', first = '', second] = name.split('/');
  const [kind, id = ''] = owner.split(':');
  const found = findChain(document, owner);
  if (!found) return undefined;
  const track =
    kind === 'track'
      ? id
      : kind === 'clip' || kind === 'treatment'
        ? trackOf(document, kind === 'clip' ? 'clips' : 'treatments', id)?.id
        : undefined;
  const tracks = document.tracks ?? [];
  const clip = tracks.flatMap((t) => t.clips ?? []).find((c) => kind === 'clip' && c.id === id);
  const span = tracks
    .flatMap((t) => t.treatments ?? [])
    .find((t) => kind === 'treatment' && t.id === id);
  const origin = clip?.start ?? span?.start ?? 0;
  const base = { name, owner, track, origin, of: found.name };
  const lane = (parameter: ParameterTable, value: Movable | undefined, of = found.name): Lane => ({
    ...base,
    of,
    parameter,
    lowest: parameter === LEVEL ? SILENCE_DB : parameter.low,
    label: parameter.label,
    value: value ?? parameter.default ?? parameter.low,
    points: pointsIn(value),
  });
  if (second === undefined) {
    if (first === 'strength') return lane(STRENGTH, found.chain.strength);
    if (first === 'gain_db' && owner === 'mix') return lane(LEVEL, document.mix?.gain_db);
    const moving = SPEEDS.find((p) => p.id === first);
    if (moving && clip) return lane(moving, clip.speed?.[moving.id as 'percent']);
    if (first === 'gain_db' && clip) return lane(LEVEL, clip.gain_db);
    const own = tracks.find((t) => kind === 'track' && t.id === id);
    if (first === 'gain_db' && own) return lane(LEVEL, own.gain_db);
    if (first === 'pan' && own) return lane(PAN, own.pan);
    return undefined;
  }
  const effect = found.chain.effects?.find((e) => e.id === first);
  const table = effects.find((t) => t.id === effect?.kind);
  const parameter = table && parameterOf(table, second);
  if (!effect || !table || !parameter?.movable) return undefined;
  const value = valueOf(effect.params ?? {}, second);
  const [, index, inner] = second.split('.');
  const number = inner === undefined ? '' : ` ${Number(index) + 1}`;
  return lane(parameter, isMovable(value) ? value : undefined, `${table.label}${number}`);
}

/** The scale on which its values go from keyframe to keyframe. */
export function scaleOf(lane: Lane): Scale {
  const straight = typeof lane.value === 'object' && lane.value.straight;
  const scale = lane.parameter.scale as Scale;
  return scale === 'db' && straight ? 'linear' : scale;
}

/** A lane's value at a sample of the reel. */
export function valueAtPlace(lane: Lane, place: number): number {
  if (!lane.points.length) return firstValue(lane.value, lane.parameter.default ?? 0);
  return valueOn(lane.points, scaleOf(lane), place - lane.origin);
}

const LOWEST_DB = LEVEL.low;
export const SILENCE_DB = -96;

/** The parameter with the range that is drawn: below the scale of a level there is silence. */
function drawn(parameter: ParameterTable): ParameterTable {
  return parameter.scale === 'db' && parameter.high > LOWEST_DB
    ? { ...parameter, low: Math.max(parameter.low, LOWEST_DB) }
    : parameter;
}

/** Where a value is drawn, 0 at the bottom and 1 at the top. */
export function shareIn(lane: Lane, value: number): number {
  return shareOf(drawn(lane.parameter), value);
}

/** The value at a height. */
export function valueIn(lane: Lane, share: number): number {
  if (share <= 0 && lane.parameter.scale === 'db') return Math.max(lane.lowest, SILENCE_DB);
  return valueAt(drawn(lane.parameter), share);
}
