import { Button, Modal, PasswordInput, Stack } from '@mantine/core';
import { notifications } from '@mantine/notifications';
import { useState, type FormEvent } from 'react';
import { client, unwrap } from '../api/client';

export function PasswordDialog({ opened, onClose }: { opened: boolean; onClose: () => void }) {
  const [old, setOld] = useState('');
  const [fresh, setFresh] = useState('');
  const [trouble, setTrouble] = useState('');

  const submit = async (event: FormEvent) => {
    event.preventDefault();
    try {
      await unwrap(client.POST('/api/password', { body: { old, new: fresh } }));
      setOld('');
      setFresh('');
      setTrouble('');
      notifications.show({ message: 'The password has been changed.' });
      onClose();
    } catch (error) {
      setTrouble((error as Error).message);
    }
  };

  return (
    <Modal opened={opened} onClose={onClose} title="Change the password">
      <form onSubmit={(e) => void submit(e)}>
        <Stack>
          <PasswordInput
            label="Present password"
            description="Leave empty if you have only signed in by link so far."
            autoComplete="current-password"
            value={old}
            onChange={(e) => setOld(e.currentTarget.value)}
          />
          <PasswordInput
            label="New password"
            description="At least ten characters."
            autoComplete="new-password"
            value={fresh}
            onChange={(e) => setFresh(e.currentTarget.value)}
            required
          />
          {trouble && (
            <p className="trouble" role="alert">
              {trouble}
            </p>
          )}
          <Button type="submit">Change it</Button>
        </Stack>
      </form>
    </Modal>
  );
}
