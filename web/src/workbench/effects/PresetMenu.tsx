import { memo } from 'react';
import { Button, Menu } from '@mantine/core';
import type { EffectTable } from '../../api/client';
import { useTogether } from '../selected/together';

interface Props {
  owner: string;
  id: string;
  table: EffectTable;
}

/** Starting points of an effect, by name. */
export const PresetMenu = memo(function PresetMenu({ owner, id, table }: Props) {
  const { edit } = useTogether(owner);
  if (table.presets.length === 0) return null;
  return (
    <Menu position="bottom-end" width={280}>
      <Menu.Target>
        <Button size="compact-xs" variant="default" className="presets">
          Presets ▾
        </Button>
      </Menu.Target>
      <Menu.Dropdown className="effect-menu">
        {table.presets.map((preset) => (
          <Menu.Item
            key={preset.name}
            onClick={() => void edit({ kind: 'apply_preset', owner, id, preset: preset.name })}
          >
            <span className="name">{preset.name}</span>
            <div className="quiet small">{preset.help}</div>
          </Menu.Item>
        ))}
      </Menu.Dropdown>
    </Menu>
  );
});
