import { Button } from '@mantine/core';
import { Link, useRouteError } from 'react-router';
import { Brand } from '../ui/Brand';

/** A page that could not be shown. */
export function Fault({ missing = false }: { missing?: boolean }) {
  const error = useRouteError();
  return (
    <main className="page">
      <header className="page-head">
        <Brand />
      </header>
      <div className="card">
        <h1>{missing ? 'There is no such page' : 'This page could not be shown'}</h1>
        <p>
          {missing
            ? 'The address may be old or mistyped.'
            : error instanceof Error
              ? error.message
              : 'Reload to try again. Everything you did has been saved.'}
        </p>
        <Button component={Link} to="/" reloadDocument>
          Go to your reels
        </Button>
      </div>
    </main>
  );
}
