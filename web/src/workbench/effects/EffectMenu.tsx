import { ActionIcon, Menu } from '@mantine/core';
import { memo } from 'react';
import { IconDots } from '@tabler/icons-react';
import type { EffectTable } from '../../api/client';
import { effectsOf, type ReelDocument } from '../../reel/document';
import { reelNow, useReel } from '../../reel/useReel';
import { useSelection } from '../selected/selection';
import { useTogether } from '../selected/together';
import { useAdvice } from '../tools/advice';
import { SaveEffectItem } from '../presets/SaveItem';
import { presetOf } from '../values/params';
import { fresh, useClipboard } from './clipboard';

interface Props {
  owner: string;
  id: string;
  table: EffectTable;
  index: number;
  last: boolean;
}

/** What can be done with one effect of a chain. */
export const EffectMenu = memo(function EffectMenu({ owner, id, table, index, last }: Props) {
  const { edit } = useTogether(owner);
  const toggleAdvice = useAdvice((s) => s.toggle);
  const copy = useClipboard((s) => s.copy);
  const own = (reel: ReelDocument) => effectsOf(reel, owner).find((e) => e.id === id);
  const preset = useReel((d) => presetOf(table, own(d)?.params ?? {}));
  const untouched = useReel((d) => Object.keys(own(d)?.params ?? {}).length === 0);
  const openCard = useSelection((s) => s.openCard);
  const move = (to: number) =>
    void edit({ kind: 'move_effect', owner, id, index: Math.max(0, to) });
  const effectNow = () => effectsOf(reelNow(), owner).filter((e) => e.id === id);
  const duplicate = async () => {
    const effects = fresh(effectNow());
    if (await edit({ kind: 'add_effects', owner, effects, index: index + 1 }))
      openCard(effects[0]!.id);
  };
  return (
    <Menu position="bottom-end" width={190}>
      <Menu.Target>
        <ActionIcon
          title="Move, copy, duplicate, remove"
          variant="subtle"
          color="gray"
          aria-label={`More for ${table.label}`}
        >
          <IconDots size={16} />
        </ActionIcon>
      </Menu.Target>
      <Menu.Dropdown data-heard>
        <Menu.Item onClick={toggleAdvice}>What it is for (F1)</Menu.Item>
        <Menu.Item disabled={index === 0} onClick={() => move(index - 1)}>
          Move up
        </Menu.Item>
        <Menu.Item disabled={last} onClick={() => move(index + 1)}>
          Move down
        </Menu.Item>
        <Menu.Item onClick={() => void duplicate()}>Duplicate</Menu.Item>
        <Menu.Item onClick={() => copy(effectNow())}>Copy</Menu.Item>
        <SaveEffectItem owner={owner} effect={id} label={preset ?? table.label} />
        <Menu.Item
          disabled={untouched}
          onClick={() => void edit({ kind: 'reset_effects', owner, id })}
        >
          Reset
        </Menu.Item>
        <Menu.Divider />
        <Menu.Item
          color="var(--bad)"
          onClick={() => void edit({ kind: 'remove_effect', owner, id })}
        >
          Remove
        </Menu.Item>
      </Menu.Dropdown>
    </Menu>
  );
});
