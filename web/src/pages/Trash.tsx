import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { client, unwrap } from '../api/client';
import { whenOf } from '../ui/when';
import { Frame, lengthOf } from './ReelLine';
import { useReelEdits } from './reelEdits';

/** Reels that were thrown away, for as long as they can be brought back. */
export function Trash() {
  const [open, setOpen] = useState(false);
  const { restore } = useReelEdits();
  const { data = [] } = useQuery({
    queryKey: ['reels', 'trash'],
    queryFn: () => unwrap(client.GET('/api/reels/trash')),
  });
  if (data.length === 0) return null;
  return (
    <section className="trash" aria-label="Trash">
      <Button
        size="compact-sm"
        variant="subtle"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
      >
        {open ? 'Hide the trash' : `Trash (${data.length})`}
      </Button>
      {open && (
        <ul className="reel-list">
          {data.map((reel) => (
            <li key={reel.id} className="reel-line">
              <Frame reel={reel} />
              <span className="name">{reel.name}</span>
              <span className="number quiet">{lengthOf(reel.seconds)}</span>
              <span className="quiet">thrown away {whenOf(reel.trashed!)}</span>
              <Button
                size="compact-sm"
                variant="default"
                aria-label={`Restore ${reel.name}`}
                onClick={() => restore(reel)}
              >
                Restore
              </Button>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
