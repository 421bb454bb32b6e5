import { Button, PasswordInput, Stack, TextInput } from '@mantine/core';
import { useState, type FormEvent } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { client, unwrap } from '../api/client';
import { Brand } from '../ui/Brand';

export function SignIn() {
  const [name, setName] = useState('');
  const [password, setPassword] = useState('');
  const [trouble, setTrouble] = useState('');
  const [params] = useSearchParams();
  const go = useNavigate();

  const submit = async (event: FormEvent) => {
    event.preventDefault();
    try {
      await unwrap(client.POST('/api/session', { body: { name, password } }));
      await go(back(params.get('to')));
    } catch (error) {
      setTrouble((error as Error).message);
    }
  };

  return (
    <main className="page" style={{ maxWidth: 420, paddingTop: 90 }}>
      <header className="page-head">
        <Brand />
      </header>
      <form className="card" onSubmit={(e) => void submit(e)}>
        <Stack>
          <h1 style={{ margin: 0, fontSize: 22 }}>Sign in</h1>
          {params.get('to') && (
            <p role="status">
              You have been signed out. What you have done is kept in this window.
            </p>
          )}
          {params.get('link') === 'used' && (
            <p role="status">
              That link has been used or has expired. Start Bathyphon again for a new one, or sign
              in with your password.
            </p>
          )}
          <TextInput
            label="Name"
            autoComplete="username"
            value={name}
            onChange={(e) => setName(e.currentTarget.value)}
            required
          />
          <PasswordInput
            label="Password"
            autoComplete="current-password"
            value={password}
            onChange={(e) => setPassword(e.currentTarget.value)}
            required
          />
          {trouble && (
            <p className="trouble" role="alert">
              {trouble}
            </p>
          )}
          <Button type="submit">Sign in</Button>
        </Stack>
      </form>
    </main>
  );
}

/** Where one came from, if that is a page of this application. */
function back(to: string | null): string {
  return to?.startsWith('/') && !to.startsWith('//') ? to : '/';
}
