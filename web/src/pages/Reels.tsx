import { ActionIcon, Button, Tooltip } from '@mantine/core';
import { IconTrash } from '@tabler/icons-react';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, Navigate } from 'react-router';
import { client, Refusal, unwrap } from '../api/client';
import { AccountMenu } from '../ui/AccountMenu';
import { Brand } from '../ui/Brand';
import { NewReel } from './NewReel';

/** The account's reels. */
export function Reels() {
  const [making, setMaking] = useState(false);
  const queries = useQueryClient();
  const reels = useQuery({ queryKey: ['reels'], queryFn: () => unwrap(client.GET('/api/reels')) });
  const trash = useMutation({
    mutationFn: (id: string) =>
      unwrap(client.DELETE('/api/reels/{id}', { params: { path: { id } } })),
    onSettled: () => queries.invalidateQueries({ queryKey: ['reels'] }),
  });
  if (reels.error instanceof Refusal && reels.error.status === 401)
    return <Navigate to="/sign-in" />;

  return (
    <main className="page">
      <header className="page-head">
        <Brand />
        <span className="grow" />
        <Button onClick={() => setMaking(true)}>New reel…</Button>
        <AccountMenu />
      </header>
      <h1 style={{ fontSize: 22 }}>Your reels</h1>
      {reels.isLoading && <p className="quiet">Looking…</p>}
      {reels.error && (
        <p className="trouble" role="alert">
          {reels.error.message}
        </p>
      )}
      {reels.data?.map((reel) => (
        <div key={reel.id} className="reel-line">
          <Link to={`/reels/${reel.id}`} className="name">
            {reel.name}
          </Link>
          <span className="quiet">changed {new Date(reel.changed).toLocaleString()}</span>
          <Tooltip label="Put into the trash (kept for 30 days)">
            <ActionIcon
              variant="subtle"
              color="gray"
              aria-label={`Put ${reel.name} into the trash`}
              onClick={() => trash.mutate(reel.id)}
            >
              <IconTrash size={18} />
            </ActionIcon>
          </Tooltip>
        </div>
      ))}
      {reels.data?.length === 0 && (
        <div className="card">
          <p>
            There is no reel yet. A reel holds a picture, its cuts, and the sound you shape to them.
          </p>
          <Button onClick={() => setMaking(true)}>Make the first one…</Button>
        </div>
      )}
      <NewReel opened={making} onClose={() => setMaking(false)} />
    </main>
  );
}
