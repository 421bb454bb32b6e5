/** Presets of one's own: kept with the account, used on what is selected. */
import { notifications } from '@mantine/notifications';
import { queryOptions, type QueryClient } from '@tanstack/react-query';
import { client, unwrap, type Schemas } from '../../api/client';
import type { Command } from '../../reel/draft';
import { useSession } from '../../reel/session';
import { spanOf } from '../../reel/document';
import { reelNow } from '../../reel/useReel';
import { download } from '../../ui/download';
import { ownerOf, useSelection } from '../selected/selection';
import { PRESETS } from '../sounds/keeping';
import type { Model, WantedSound } from '../sounds/shelf';

export type Preset = Schemas['KeptLine'];
type Kind = Schemas['Taken']['kind'];

/** Presets that words may mean; without words all of them. */
export function presetsFound(text: string) {
  return queryOptions({
    queryKey: [PRESETS, text],
    queryFn: () => unwrap(client.GET('/api/presets', { params: { query: { text } } })),
    placeholderData: (last: Preset[] | undefined) => last,
  });
}

/** Keep a part of the reel under a name; where one finds it is said. */
export async function savePreset(
  queries: QueryClient,
  kind: Kind,
  owner: string,
  name: string,
  effect?: string,
): Promise<void> {
  const { id, tell } = useSession.getState();
  try {
    await unwrap(
      client.POST('/api/presets', {
        body: { reel: id, kind, owner, name, ...(effect && { effect }) },
      }),
    );
    await queries.invalidateQueries({ queryKey: [PRESETS] });
    notifications.show({ message: `Saved as “${name}”, under Media & sounds, Presets.` });
  } catch (error) {
    tell((error as Error).message);
  }
}

/** What a preset of a sound would lay; none where its model is not known. */
export function soundOf(preset: Preset, models: readonly Model[]): WantedSound | undefined {
  const model = models.find((m) => m.id === preset.sound?.model);
  if (!model || !preset.sound) return undefined;
  const { settings, seed, gain_db: gainDb } = preset.sound;
  const sound = { id: preset.id, model: model.id, name: preset.name, help: '', settings };
  return { sound, model, settings, seed, gainDb };
}

/** Where a preset would be used now, and what is heard of it. */
function targetNow(preset: Preset) {
  const { selection } = useSelection.getState();
  const nowhere = { owner: null, tracks: [] as string[], start: 0, end: 0, replace: false };
  if (selection.kind === 'range') {
    const { start, end, tracks } = selection;
    return { target: { ...nowhere, tracks, start, end }, span: { start, end } };
  }
  const owner = ownerOf(selection);
  if (!owner) return { target: nowhere, span: { start: 0, end: 0 } };
  // A treatment's preset takes the place of what a treatment holds; others are added to it.
  const replace = preset.kind === 'treatment' && owner.startsWith('treatment:');
  return { target: { ...nowhere, owner, replace }, span: spanOf(reelNow(), owner) };
}

/** The edits that put a preset on what is selected, and over what they are heard. */
export async function presetUsed(preset: Preset, trying: boolean) {
  const { id } = useSession.getState();
  const { target, span } = targetNow(preset);
  const { commands, notes } = await unwrap(
    client.POST('/api/presets/{id}/use', {
      params: { path: { id: preset.id } },
      body: { reel: id, ...target, trying },
    }),
  );
  return { commands: commands as Command[], notes, span };
}

/** A name that a part may be saved under. */
export function nameFor(given: string | undefined, effects: readonly string[]): string {
  return given?.trim() || effects.join(', ') || 'Preset';
}

/** Hand out a file of presets. */
export function handOut(name: string, file: unknown): void {
  const text = JSON.stringify(file, null, 1);
  download(`${name}.json`, new Blob([text], { type: 'application/json' }));
}
