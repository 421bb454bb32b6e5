/** Walking through one's own presets by keys, each heard on what is selected before it is taken. */
import { create } from 'zustand';
import type { Player } from '../../player/player';
import { useSession } from '../../reel/session';
import { tryOut } from '../listening/trying';
import { presetUsed, type Preset } from './presets';

interface Shown {
  /** Those that are listed now, in their order; none while the list is closed. */
  presets: readonly Preset[];
  open: string | undefined;
}

export const useShown = create<Shown>()(() => ({ presets: [], open: undefined }));

export const openPreset = (open: string | undefined) => useShown.setState({ open });

/** Try the next of the presets that are listed, or the one before; whether any are. */
export function walkOwn(player: Player, by: 1 | -1): boolean {
  const { presets, open } = useShown.getState();
  // Sounds are laid and poses are stamped: neither is put on what is selected.
  const walked = presets.filter((preset) => preset.kind !== 'bed' && preset.kind !== 'poses');
  if (walked.length === 0) return false;
  const at = walked.findIndex((preset) => preset.id === open);
  const next = walked[at < 0 ? (by > 0 ? 0 : walked.length - 1) : at + by];
  if (!next) return true;
  openPreset(next.id);
  void tryPreset(player, next).catch((error: unknown) =>
    useSession.getState().tell((error as Error).message),
  );
  return true;
}

/** Hear what a preset would make of what is selected, unless one has gone on meanwhile. */
export async function tryPreset(player: Player, preset: Preset): Promise<void> {
  const { commands, span } = await presetUsed(preset, true);
  if (useShown.getState().open === preset.id) tryOut(player, preset.name, commands, span, true);
}
