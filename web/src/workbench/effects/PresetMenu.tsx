import { memo } from 'react';
import { Button, Menu } from '@mantine/core';
import type { EffectTable } from '../../api/client';
import { useTogether } from '../selected/together';

interface Props {
  owner: string;
  id: string;
  table: EffectTable;
  /** Which of them is set. */
  set: string | undefined;
}

/** Starting points of an effect, by name. */
export const PresetMenu = memo(function PresetMenu({ owner, id, table, set }: Props) {
  const { edit } = useTogether(owner);
  if (table.presets.length === 0) return null;
  const label = set ? `Presets: ${set}` : 'Presets';
  return (
    <Menu position="bottom-end" width={280}>
      <Menu.Target>
        <Button size="compact-xs" variant="default" className="presets" aria-label={label}>
          <span className="name">{set ?? 'Presets'}</span>&nbsp;▾
        </Button>
      </Menu.Target>
      <Menu.Dropdown className="effect-menu" data-heard>
        {table.presets.map((preset) => (
          <Menu.Item
            key={preset.name}
            onClick={() => void edit({ kind: 'apply_preset', owner, id, preset: preset.name })}
          >
            <span className="name">{preset.name}</span>
            {preset.name === set && <span className="quiet small"> set now</span>}
            <div className="quiet small">{preset.help}</div>
          </Menu.Item>
        ))}
      </Menu.Dropdown>
    </Menu>
  );
});
