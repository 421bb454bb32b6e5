import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Navigate } from 'react-router';
import { client, Refusal, unwrap } from '../api/client';
import { AccountMenu } from '../ui/AccountMenu';
import { Brand } from '../ui/Brand';
import { NewReel } from './NewReel';
import { OpenPacked } from './OpenPacked';
import { ReelLine } from './ReelLine';
import { Trash } from './Trash';

/** The account's reels. */
export function Reels() {
  const [making, setMaking] = useState(false);
  const reels = useQuery({ queryKey: ['reels'], queryFn: () => unwrap(client.GET('/api/reels')) });
  if (reels.error instanceof Refusal && reels.error.status === 401)
    return <Navigate to="/sign-in" />;

  return (
    <main className="page">
      <header className="page-head">
        <Brand />
        <span className="grow" />
        <OpenPacked />
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
      <ul className="reel-list">
        {reels.data?.map((reel) => (
          <ReelLine key={reel.id} reel={reel} />
        ))}
      </ul>
      {reels.data?.length === 0 && (
        <div className="card">
          <p>
            There is no reel yet. A reel holds a picture, its cuts, and the sound you shape to them.
          </p>
          <Button onClick={() => setMaking(true)}>Make the first one…</Button>
        </div>
      )}
      <Trash />
      <NewReel opened={making} onClose={() => setMaking(false)} />
    </main>
  );
}
