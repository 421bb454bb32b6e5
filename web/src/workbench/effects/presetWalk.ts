/** Walking through the presets of an effect by keys, each heard before one of them is taken. */
import type { EffectTable } from '../../api/client';
import type { Player } from '../../player/player';
import { effectsOf, spanOf } from '../../reel/document';
import { useSession } from '../../reel/session';
import { tryOut, useTrying } from '../listening/trying';
import { openOf, useSelection } from '../selected/selection';
import { presetOf } from '../values/params';

/** Try the next preset of the open effect, or the one before; whether there is any. */
export function walkPresets(player: Player, tables: readonly EffectTable[], by: 1 | -1): boolean {
  const reel = useSession.getState().document;
  const { selection, openEffect } = useSelection.getState();
  if (!reel) return false;
  if (!('id' in selection) && selection.kind !== 'mix') return false;
  const owner = selection.kind === 'mix' ? 'mix' : `${selection.kind}:${selection.id}`;
  const effect = openOf(effectsOf(reel, owner), openEffect);
  const table = tables.find((t) => t.id === effect?.kind);
  if (!effect || !table || table.presets.length === 0) return false;
  const names = table.presets.map((p) => p.name);
  const now = useTrying.getState().pending?.label ?? presetOf(table, effect.params ?? {}) ?? '';
  const at = names.indexOf(now);
  const next = names[at < 0 ? (by > 0 ? 0 : names.length - 1) : at + by];
  if (!next) return true;
  const commands = [{ kind: 'apply_preset', owner, id: effect.id, preset: next }];
  tryOut(player, next, commands, spanOf(reel, owner), true);
  return true;
}
