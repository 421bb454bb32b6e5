/** The parts of a reel document that are drawn. The rules about them live in the server. */

export interface Keyframe {
  /** Samples from the owner's start. */
  at: number;
  value: number;
  ease?: string;
  bend?: number;
  soft?: number;
  /** The pose whose value it has, and the stamping that it moves with. */
  pose?: string | null;
  stamp?: string | null;
}
export interface KeyframeList {
  keyframes: Keyframe[];
  /** In older documents levels move straight in decibels, into silence, too. */
  straight?: boolean;
}
export type Movable = number | KeyframeList;

/** What a parameter of an effect may be: a number that may move, a name, or a list of entries. */
export type ParamValue = Movable | string | { [id: string]: ParamValue }[];
export type Params = Record<string, ParamValue>;

export interface Ramp {
  length: number;
  shape?: string;
  /** −1 arrives early, 1 late; counts where the shape is a bend. */
  bend?: number;
  /** It follows the overlap of two clips. */
  auto?: boolean;
  /** How the powers of that crossfade add, if not chosen by what the clips play. */
  law?: 'equal_gain' | 'equal_power';
}

export interface EffectPart {
  id: string;
  kind: string;
  bypass?: boolean;
  params?: Params;
}

export interface Chain {
  /** Other settings that were kept, each a whole chain; the chosen one is what plays. */
  kept?: { name: string; effects: EffectPart[] }[];
  chosen?: string;
  effects?: EffectPart[];
  strength?: Movable;
  ring_out?: 'auto' | 'none' | number;
  bypass?: boolean;
}

export interface Treatment extends Chain {
  id: string;
  name?: string;
  start: number;
  length: number;
  ramp_in?: Ramp;
  ramp_out?: Ramp;
}

/** Speed and pitch of a clip. */
export interface Speed {
  percent?: Movable;
  pitch?: 'hold' | 'follow';
  semitones?: Movable;
  cents?: Movable;
  formants?: 'hold' | 'follow';
  formant_shift?: Movable;
  material?: 'voice' | 'music';
  origin?: number;
}

export interface Clip {
  id: string;
  media: string;
  name?: string;
  start: number;
  length: number;
  source_start?: number;
  gain_db?: Movable;
  fade_in?: Ramp;
  fade_out?: Ramp;
  treatment?: Chain;
  speed?: Speed;
  enabled?: boolean;
  tie?: number | null;
  /** It stays with the cuts at its ends. */
  bed?: boolean;
}

export interface Track {
  /** What it carries, where one has said. */
  material?: '' | 'speech' | 'music' | 'bed';
  id: string;
  name?: string;
  gain_db?: Movable;
  pan?: Movable;
  mute?: boolean;
  solo?: boolean;
  height?: 'low' | 'middle' | 'high';
  folded?: boolean;
  clips?: Clip[];
  treatments?: Treatment[];
  treatment?: Chain;
}

export type MarkerKind = 'note' | 'action' | 'sound' | 'music' | 'problem';

export interface Marker {
  id: string;
  at: number;
  label?: string;
  kind?: MarkerKind;
}

/** A named set of values, by the names of their lanes. */
export interface Pose {
  id: string;
  name?: string;
  values?: Record<string, number>;
}

export interface Shot {
  frame: number;
  name?: string;
  kind?: 'hard' | 'dissolve' | 'fade';
  length?: number;
  by?: 'hand' | 'finder' | 'file';
}

export interface Medium {
  id: string;
  path: string;
  /** It is empty: a template asks for a file here. */
  place?: boolean;
  beats?: { factor?: number; shift?: number };
}

export interface PictureClip {
  media: string;
  start: number;
  length: number;
  source_start?: number;
}

export interface Listening {
  thresholds?: Record<string, number | null>;
  dismissed?: { finding: string; word?: string }[];
}

export interface ReelDocument {
  listening?: Listening;
  name?: string;
  frame_rate: string;
  drop_frame?: boolean;
  sample_rate: number;
  start_timecode?: string;
  media?: Medium[];
  picture?: { clips?: PictureClip[]; cuts?: number[]; shots?: Shot[] };
  markers?: Marker[];
  /** What recipes have made. */
  made?: { id: string }[];
  poses?: Pose[];
  tracks?: Track[];
  mix?: { gain_db?: Movable; treatment?: Chain };
}

/** A reel of nothing, for the moment before one is open. */
export const NOTHING: ReelDocument = { frame_rate: '25/1', sample_rate: 48000 };

/** A number as it is now, or where its keyframes begin. */
export function firstValue(value: ParamValue | undefined, otherwise: number): number {
  if (typeof value === 'number') return value;
  if (typeof value !== 'object' || Array.isArray(value)) return otherwise;
  return value.keyframes[0]?.value ?? otherwise;
}

// The same each time, so that who compares sees that nothing has changed.
const NO_EFFECTS: EffectPart[] = [];
const NO_CHAIN: Chain = {};

/** The effects of a chain, in order; none if it is not there. */
export function effectsOf(reel: ReelDocument, owner: string): EffectPart[] {
  return findChain(reel, owner)?.chain.effects ?? NO_EFFECTS;
}

/** A chain's name in commands, and the chain. */
export function findChain(
  doc: ReelDocument,
  owner: string,
): { chain: Chain; name: string; path: string } | undefined {
  const [kind, id] = owner.split(':');
  if (owner === 'mix')
    return { chain: doc.mix?.treatment ?? NO_CHAIN, name: 'Mix', path: 'mix.treatment' };
  for (const [t, track] of (doc.tracks ?? []).entries()) {
    if (kind === 'track' && track.id === id)
      return {
        chain: track.treatment ?? NO_CHAIN,
        name: track.name || 'Track',
        path: `tracks.${t}.treatment`,
      };
    for (const [f, treatment] of (track.treatments ?? []).entries()) {
      if (kind === 'treatment' && treatment.id === id)
        return {
          chain: treatment,
          name: treatment.name || 'Treatment',
          path: `tracks.${t}.treatments.${f}`,
        };
    }
    for (const [c, clip] of (track.clips ?? []).entries()) {
      if (kind === 'clip' && clip.id === id)
        return {
          chain: clip.treatment ?? NO_CHAIN,
          name: clip.name || 'Clip',
          path: `tracks.${t}.clips.${c}.treatment`,
        };
    }
  }
  return undefined;
}

export function trackOf(doc: ReelDocument, kind: 'clips' | 'treatments', id: string) {
  return (doc.tracks ?? []).find((track) => (track[kind] ?? []).some((x) => x.id === id));
}

/** The track that a chain's owner is or lies on; the mix is on none. */
export function trackOfOwner(doc: ReelDocument, owner: string): Track | undefined {
  const [kind, id = ''] = owner.split(':');
  if (kind === 'track') return (doc.tracks ?? []).find((t) => t.id === id);
  if (kind === 'clip') return trackOf(doc, 'clips', id);
  return kind === 'treatment' ? trackOf(doc, 'treatments', id) : undefined;
}

/** First sample of a chain's owner and the one after its last, without tails. */
export function spanOf(doc: ReelDocument, owner: string): { start: number; end: number } {
  const [kind, id] = owner.split(':');
  let end = 0;
  for (const track of doc.tracks ?? []) {
    const parts = [
      ...(kind === 'treatment' ? (track.treatments ?? []) : []),
      ...(kind === 'clip' ? (track.clips ?? []) : []),
    ];
    const own = parts.find((part) => part.id === id);
    if (own) return { start: own.start, end: own.start + own.length };
    if (owner === 'mix' || (kind === 'track' && track.id === id))
      for (const clip of track.clips ?? []) end = Math.max(end, clip.start + clip.length);
  }
  return { start: 0, end };
}
