import { useId, useState, type FormEvent } from 'react';
import { client, unwrap } from '../api/client';
import { Mark } from '../ui/Mark';

interface Props {
  /** What the address asks for. */
  params: URLSearchParams;
  /** Go on to a page of the application. */
  go: (to: string) => void;
}

/** Built of plain fields: who signs in waits for nothing that only the timeline needs. */
export function SignIn({ params, go }: Props) {
  const [name, setName] = useState('');
  const [password, setPassword] = useState('');
  const [trouble, setTrouble] = useState('');

  const submit = async (event: FormEvent) => {
    event.preventDefault();
    try {
      await unwrap(client.POST('/api/session', { body: { name, password } }));
      go(back(params.get('to')));
    } catch (error) {
      setTrouble((error as Error).message);
    }
  };

  return (
    <main className="page sign-in">
      <header className="page-head">
        <span className="brand">
          <Mark />
          <span>Bathyphon</span>
        </span>
      </header>
      <form className="card" onSubmit={(e) => void submit(e)}>
        <h1>Sign in</h1>
        {params.get('kept') && (
          <p role="status">You have been signed out. What you have done is kept in this window.</p>
        )}
        {params.get('link') === 'used' && (
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

/** Where one came from, if that is a page of this application. */
function back(to: string | null): string {
  return to?.startsWith('/') && !to.startsWith('//') ? to : '/';
}
