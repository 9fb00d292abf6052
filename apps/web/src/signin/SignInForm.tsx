import type { Session } from '@underpass/contracts';
import { useState } from 'react';
import { ApiError, call } from '../api/client.js';

/** Address, password, and the code where there is a second factor. What was typed stays when it was wrong. */
export function SignInForm({
  address,
  second = false,
  onDone,
}: {
  address?: string;
  /** Another way stands before it. */
  second?: boolean;
  onDone: (session: Session) => void;
}) {
  const [email, setEmail] = useState(address ?? '');
  const [password, setPassword] = useState('');
  const [code, setCode] = useState<string | null>(null);
  const [fault, setFault] = useState<{ field: 'password' | 'code'; text: string } | null>(null);
  const [busy, setBusy] = useState(false);
  const submit = async () => {
    setBusy(true);
    setFault(null);
    try {
      onDone(await call<Session>('session', 'POST', { email, password, ...(code ? { code } : {}) }));
      return;
    } catch (error) {
      const problem = error instanceof ApiError ? error.problem : null;
      const asksCode = problem?.needs === 'code';
      if (asksCode && code === null) setCode('');
      else
        setFault({
          field: asksCode || problem?.fields?.[0]?.field === 'code' ? 'code' : 'password',
          text: problem?.detail ?? 'Signing in failed. Try again.',
        });
    }
    setBusy(false);
  };
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        void submit();
      }}
      className="grid grid-cols-[88px_1fr] gap-y-3 items-center"
    >
      <label htmlFor="email">Address</label>
      <input
        id="email"
        name="email"
        type="text"
        inputMode="email"
        autoComplete="username"
        className="field"
        required
        value={email}
        aria-invalid={fault?.field === 'password'}
        onChange={(event) => setEmail(event.target.value)}
        autoFocus={address === undefined}
      />
      <label htmlFor="password">Password</label>
      <input
        id="password"
        name="password"
        type="password"
        autoComplete="current-password"
        className="field"
        required
        value={password}
        aria-invalid={fault?.field === 'password'}
        aria-describedby="fault"
        onChange={(event) => setPassword(event.target.value)}
        autoFocus={address !== undefined}
      />
      {code !== null && <CodeField code={code} faulty={fault?.field === 'code'} onCode={setCode} />}
      <p id="fault" role="alert" className="col-start-2 text-brick empty:hidden">
        {fault?.text}
      </p>
      <div className="col-start-2">
        <button className={`btn ${second ? '' : 'btn-primary'}`} disabled={busy}>
          {busy ? 'Signing in' : 'Sign in'}
        </button>
      </div>
    </form>
  );
}

function CodeField({ code, faulty, onCode }: { code: string; faulty: boolean; onCode: (code: string) => void }) {
  return (
    <>
      <label htmlFor="code">Code</label>
      <input
        id="code"
        name="code"
        type="text"
        inputMode="numeric"
        autoComplete="one-time-code"
        className="field mono"
        required
        value={code}
        aria-invalid={faulty}
        aria-describedby="code-more fault"
        onChange={(event) => onCode(event.target.value)}
        autoFocus
      />
      <p id="code-more" className="col-start-2 text-ink-3 text-[12.5px]">
        The six digits your authenticator shows now, or one of your spare codes.
      </p>
    </>
  );
}
