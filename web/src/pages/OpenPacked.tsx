import { Button, FileButton } from '@mantine/core';
import { notifications } from '@mantine/notifications';
import { useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { transferArchive, type Transfer } from '../api/uploads';

/** Brings in a reel that was downloaded with its media, here or elsewhere. */
export function OpenPacked() {
  const go = useNavigate();
  const again = useRef<() => void>(null);
  const under = useRef<Transfer<string>>(undefined);
  const [share, setShare] = useState<number | undefined>();
  const open = async (file: File | null) => {
    again.current?.();
    if (!file) return;
    setShare(0);
    try {
      under.current = transferArchive(file, setShare);
      await go(`/reels/${await under.current.done}`);
    } catch (error) {
      notifications.show({ message: (error as Error).message, color: 'red' });
    } finally {
      setShare(undefined);
    }
  };
  if (share !== undefined)
    return (
      <Button variant="default" onClick={() => under.current?.cancel()}>
        {share < 1 ? `Stop sending (${Math.floor(share * 100)} %)` : 'Opening…'}
      </Button>
    );
  return (
    <FileButton resetRef={again} accept=".zip" onChange={(file) => void open(file)}>
      {(props) => (
        <Button {...props} variant="default" title="A reel that was downloaded with its media">
          Open packed reel…
        </Button>
      )}
    </FileButton>
  );
}
