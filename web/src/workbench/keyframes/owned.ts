/** The lanes of one owner: its own values first, then those of its effects. */
import type { EffectTable } from '../../api/client';
import { findChain, type ReelDocument } from '../../reel/document';
import { entriesOf } from '../values/params';
import { laneOf, type Lane } from './lanes';

export function lanesOfOwner(
  document: ReelDocument,
  effects: EffectTable[],
  owner: string,
): Lane[] {
  const chain = findChain(document, owner)?.chain;
  if (!chain) return [];
  const names = owner.startsWith('track:')
    ? ['pan', 'gain_db']
    : owner.startsWith('treatment:')
      ? []
      : owner.startsWith('clip:')
        ? ['gain_db', 'percent', 'semitones']
        : ['gain_db'];
  const parts = chain.effects ?? [];
  if (parts.length) names.push('strength');
  for (const effect of parts) {
    const table = effects.find((t) => t.id === effect.kind);
    for (const p of table?.parameters ?? []) if (p.movable) names.push(`${effect.id}/${p.id}`);
    const group = table?.group;
    if (!group) continue;
    entriesOf(effect.params ?? {}, group.id).forEach((_, i) => {
      for (const p of group.parameters)
        if (p.movable) names.push(`${effect.id}/${group.id}.${i}.${p.id}`);
    });
  }
  return names.flatMap((name) => laneOf(document, effects, `${owner}/${name}`) ?? []);
}
