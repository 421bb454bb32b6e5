/** What the reel can be compared with, for what is selected. */
import type { EffectTable } from '../../api/client';
import { WITHOUT_ALL, type Against } from '../../player/against';
import {
  effectsOf,
  findChain,
  trackOfOwner,
  type Chain,
  type ReelDocument,
  type Track,
} from '../../reel/document';
import { openOf, ownerOf, type Selection } from '../selected/selection';

/** All of them, the most usual first. */
export function choicesOf(
  reel: ReelDocument,
  selection: Selection,
  openEffect: string | undefined,
  tables: readonly EffectTable[],
): Against[] {
  const found = [WITHOUT_ALL];
  const owner = ownerOf(selection);
  const chain = owner ? findChain(reel, owner) : undefined;
  if (owner && chain && (chain.chain.effects ?? []).length > 0) {
    const effects = effectsOf(reel, owner);
    const effect = openOf(effects, openEffect);
    if (effect) {
      const label = labelOf(tables, effect.kind);
      found.push({
        label: `${effect.bypass ? 'With' : 'Without'} ${label}`,
        state: {
          commands: [{ kind: 'set_effect', owner, id: effect.id, bypass: !effect.bypass }],
        },
        of: `effect:${owner}/${effect.id}`,
      });
    }
    found.push({
      label: `${chain.chain.bypass ? 'With' : 'Without'} “${chain.name}”`,
      state: { commands: [{ kind: 'set_chain', owner, bypass: !chain.chain.bypass }] },
      of: owner,
    });
    for (const { name } of chain.chain.kept ?? [])
      if (name !== chain.chain.chosen)
        found.push({
          label: name,
          state: { commands: [{ kind: 'use_kept', owner, name }] },
          of: `kept:${owner}/${name}`,
        });
  }
  const track = trackIn(reel, selection);
  if (track) {
    const treated = chainsOn(track).filter(([, c]) => !c.bypass);
    if (treated.length > 0)
      found.push({
        label: `Without all on ${track.name ?? track.id}`,
        state: {
          commands: treated.map(([o]) => ({ kind: 'set_chain', owner: o, bypass: true })),
        },
        of: `all:${track.id}`,
      });
  }
  return found;
}

/** More clips than this are not silenced one by one. */
const MOST_SILENT = 1000;

/** Parts of the reel that can be heard alone. */
export function partsOf(
  reel: ReelDocument,
  selection: Selection,
  openEffect: string | undefined,
  tables: readonly EffectTable[],
): Against[] {
  const tracks = reel.tracks ?? [];
  const track = trackIn(reel, selection);
  if (!track) return [];
  const only = tracks.map((t) => ({
    kind: 'set_track',
    id: t.id,
    solo: t.id === track.id,
    ...(t.id === track.id ? { mute: false } : {}),
  }));
  const found: Against[] = [
    {
      label: `Only ${track.name ?? track.id}`,
      state: { commands: only },
      of: `only:${track.id}`,
      plain: true,
    },
  ];
  if (selection.kind === 'clip') {
    const clips = track.clips ?? [];
    const clip = clips.find((c) => c.id === selection.id);
    const silent = clips.filter((c) => c.id !== selection.id && c.enabled !== false);
    if (clip && silent.length > 0 && silent.length <= MOST_SILENT)
      found.push({
        label: `Only the clip “${clip.name || clip.id}”`,
        state: {
          commands: [
            ...only,
            ...silent.map(({ id }) => ({ kind: 'set_clip', id, enabled: false })),
          ],
        },
        of: `only-clip:${clip.id}`,
        plain: true,
      });
  }
  const owner = ownerOf(selection);
  const chain = owner && owner !== 'mix' ? findChain(reel, owner) : undefined;
  if (owner && chain && (chain.chain.effects ?? []).length > 0) {
    const others = chainsOn(track).filter(([name, c]) => name !== owner && !c.bypass);
    found.push({
      label: `Only “${chain.name}” on ${track.name ?? track.id}`,
      state: {
        commands: [
          ...only,
          ...others.map(([name]) => ({ kind: 'set_chain', owner: name, bypass: true })),
        ],
      },
      of: `only:${owner}`,
      plain: true,
    });
    const effects = effectsOf(reel, owner);
    const effect = openOf(effects, openEffect);
    if (effect && effects.length > 1)
      found.push({
        label: `Only ${labelOf(tables, effect.kind)} of “${chain.name}”`,
        state: {
          commands: effects.map((e) => ({
            kind: 'set_effect',
            owner,
            id: e.id,
            bypass: e.id !== effect.id,
          })),
        },
        of: `only:${owner}/${effect.id}`,
        plain: true,
      });
  }
  return found;
}

function labelOf(tables: readonly EffectTable[], kind: string): string {
  return tables.find((t) => t.id === kind)?.label ?? kind;
}

/** Chains with effects: the clips', the spans', the track's own. */
function chainsOn(track: Track): [string, Chain][] {
  const chains: [string, Chain][] = [
    ...(track.clips ?? []).map((c) => [`clip:${c.id}`, c.treatment ?? {}] as [string, Chain]),
    ...(track.treatments ?? []).map((t) => [`treatment:${t.id}`, t] as [string, Chain]),
    [`track:${track.id}`, track.treatment ?? {}],
  ];
  return chains.filter(([, c]) => (c.effects ?? []).length > 0);
}

function trackIn(reel: ReelDocument, selection: Selection) {
  if (selection.kind === 'range')
    return (reel.tracks ?? []).find((t) => t.id === selection.tracks[0]);
  const owner = ownerOf(selection);
  return owner ? trackOfOwner(reel, owner) : undefined;
}
