import { useEffect, useId, useState, type FormEvent, type ReactNode } from 'react';
import { client, Refusal, unwrap } from '../api/client';
import { Mark } from '../ui/Mark';

interface Props {
  /** What the address asks for. */
  params: URLSearchParams;
  /** What signs in once, if one has come by a link. */
  link: string | undefined;
  /** Go on to a page of the application. */
  go: (to: string) => void;
}

/** Built of plain fields: who signs in waits for nothing that only the timeline needs. */
export function SignIn({ params, go, ...props }: Props) {
  const [link] = useState(props.link);
  const [used, setUsed] = useState(params.get('link') === 'used');
  const [name, setName] = useState('');
  const [password, setPassword] = useState('');
  const [trouble, setTrouble] = useState('');

  useEffect(() => {
    // Neither the address that is shown nor the history keeps it.
    if (link)
      window.history.replaceState(null, '', window.location.pathname + window.location.search);
  }, [link]);

  const submit = async (event: FormEvent) => {
    event.preventDefault();
    try {
      await unwrap(client.POST('/api/session', { body: { name, password } }));
      go(back(params.get('to')));
    } catch (error) {
      setTrouble((error as Error).message);
    }
  };

  const enter = async (event: FormEvent) => {
    event.preventDefault();
    try {
      await unwrap(client.POST('/api/session/link', { body: { token: link! } }));
      go(back(params.get('to')));
    } catch (error) {
      if (error instanceof Refusal) setUsed(true);
      else setTrouble((error as Error).message);
    }
  };

  if (link && !used)
    return (
      <Page>
        <form className="card" onSubmit={(e) => void enter(e)}>
          <h1>Sign in</h1>
          <p>This link signs you in once, in this browser.</p>
          {trouble && (
            <p className="trouble" role="alert">
              {trouble}
            </p>
          )}
          <button type="submit" className="plain-button" autoFocus>
            Sign in
          </button>
        </form>
      </Page>
    );
  return (
    <Page>
      <form className="card" onSubmit={(e) => void submit(e)}>
        <h1>Sign in</h1>
        {params.get('kept') && (
          <p role="status">You have been signed out. What you have done is kept in this window.</p>
        )}
        {used && (
          <p role="status">
            That link has been used or has expired. Start Bathyphon again for a new one, or sign in
            with your password.
          </p>
        )}
        <Field label="Name" autoComplete="username" value={name} set={setName} />
        <Field
          label="Password"
          type="password"
          autoComplete="current-password"
          value={password}
          set={setPassword}
        />
        {trouble && (
          <p className="trouble" role="alert">
            {trouble}
          </p>
        )}
        <button type="submit" className="plain-button">
          Sign in
        </button>
      </form>
    </Page>
  );
}

function Page({ children }: { children: ReactNode }) {
  return (
    <main className="page sign-in">
      <header className="page-head">
        <span className="brand">
          <Mark />
          <span>Bathyphon</span>
        </span>
      </header>
      {children}
    </main>
  );
}

function Field(props: {
  label: string;
  type?: string;
  autoComplete: string;
  value: string;
  set: (value: string) => void;
}) {
  const { label, set, ...rest } = props;
  const id = useId();
  return (
    <div className="plain-field">
      <label htmlFor={id}>{label}</label>
      <input id={id} required {...rest} onChange={(e) => set(e.currentTarget.value)} />
    </div>
  );
}

/** What a link that signs in carries behind the #, where it is sent to nobody. */
export function linkOf({ hash }: Location): string | undefined {
  return new URLSearchParams(hash.slice(1)).get('link') ?? undefined;
}

/** Where one came from, if that is a page of this application. */
function back(to: string | null): string {
  return to?.startsWith('/') && !to.startsWith('//') ? to : '/';
}
