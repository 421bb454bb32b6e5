/** What one may go on to after an edit, as the server offers it. */
import { Button } from '@mantine/core';
import { notifications } from '@mantine/notifications';
import { useEffect } from 'react';
import { useSession } from '../reel/session';

const OFFERED_MS = 12000;
const ID = 'offer';

export function Offers() {
  const offer = useSession((s) => s.offer);
  useEffect(() => {
    notifications.hide(ID);
    if (!offer) return;
    notifications.show({
      id: ID,
      autoClose: OFFERED_MS,
      title: offer.text,
      message: (
        <Button
          size="compact-xs"
          onClick={() => {
            notifications.hide(ID);
            void useSession.getState().edit(offer.commands as { kind: string }[]);
          }}
        >
          {offer.label}
        </Button>
      ),
    });
  }, [offer]);
  return null;
}
