import { ActionIcon, Menu, useMantineColorScheme } from '@mantine/core';
import {
  IconDeviceDesktop,
  IconKey,
  IconLogout,
  IconMoon,
  IconSettings,
  IconSun,
} from '@tabler/icons-react';
import { useState, type ReactNode } from 'react';
import { useNavigate } from 'react-router';
import { client, unwrap } from '../api/client';
import { PasswordDialog } from '../pages/PasswordDialog';
import { unsentEdits } from '../reel/session';

const LOSING =
  'Some of your changes have not reached the server yet. Signed out, they wait until you sign in ' +
  'again in this window. Sign out anyway?';

/** Day and night, password, signing out; pages add entries of their own. */
export function AccountMenu({ children }: { children?: ReactNode }) {
  const { setColorScheme } = useMantineColorScheme();
  const [asking, setAsking] = useState(false);
  const go = useNavigate();
  const leave = async () => {
    if (unsentEdits() && !window.confirm(LOSING)) return;
    await unwrap(client.DELETE('/api/session'));
    await go('/sign-in');
  };
  return (
    <>
      <Menu position="bottom-end" width={240}>
        <Menu.Target>
          <ActionIcon variant="default" size={32} aria-label="Settings">
            <IconSettings size={18} />
          </ActionIcon>
        </Menu.Target>
        <Menu.Dropdown>
          {children}
          <Menu.Label>Look</Menu.Label>
          <Menu.Item leftSection={<IconSun size={16} />} onClick={() => setColorScheme('light')}>
            Day
          </Menu.Item>
          <Menu.Item leftSection={<IconMoon size={16} />} onClick={() => setColorScheme('dark')}>
            Night
          </Menu.Item>
          <Menu.Item
            leftSection={<IconDeviceDesktop size={16} />}
            onClick={() => setColorScheme('auto')}
          >
            As the system
          </Menu.Item>
          <Menu.Label>Account</Menu.Label>
          <Menu.Item leftSection={<IconKey size={16} />} onClick={() => setAsking(true)}>
            Change the password…
          </Menu.Item>
          <Menu.Item leftSection={<IconLogout size={16} />} onClick={() => void leave()}>
            Sign out
          </Menu.Item>
        </Menu.Dropdown>
      </Menu>
      <PasswordDialog opened={asking} onClose={() => setAsking(false)} />
    </>
  );
}
