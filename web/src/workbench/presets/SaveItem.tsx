import { Menu } from '@mantine/core';
import { useQueryClient } from '@tanstack/react-query';
import { effectsOf } from '../../reel/document';
import { reelNow } from '../../reel/useReel';
import { useTools } from '../tools/context';
import { nameFor, savePreset } from './presets';

/** In the menu of a sheet: keep all of it, a treatment with its ramps, under its name. */
export function SaveItem({ owner, name }: { owner: string; name?: string | undefined }) {
  const { effects } = useTools();
  const queries = useQueryClient();
  const labels = () =>
    effectsOf(reelNow(), owner).map((e) => effects.find((t) => t.id === e.kind)?.label ?? e.kind);
  const kind = owner.startsWith('treatment:') ? 'treatment' : 'chain';
  return (
    <Menu.Item onClick={() => void savePreset(queries, kind, owner, nameFor(name, labels()))}>
      Save as a preset
    </Menu.Item>
  );
}

/** In the menu of an effect: keep it alone. */
export function SaveEffectItem(props: { owner: string; effect: string; label: string }) {
  const { owner, effect, label } = props;
  const queries = useQueryClient();
  return (
    <Menu.Item onClick={() => void savePreset(queries, 'effect', owner, label, effect)}>
      Save as a preset
    </Menu.Item>
  );
}
