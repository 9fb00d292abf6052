import { useQueryClient } from '@tanstack/react-query';
import type { Session } from '@underpass/contracts';
import { useState } from 'react';
import { ApiError, call } from '../api/client.js';
import { Mark } from '../shell/Mark.js';

/** Sign-in, on the ground line. What was typed stays when it was wrong. */
export function SignInPage() {
  const client = useQueryClient();
  const [email, setEmail] = useState('');
  const [password, setPassword] = useState('');
  const [fault, setFault] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const submit = async (event: React.FormEvent) => {
    event.preventDefault();
    setBusy(true);
    setFault(null);
    try {
      client.setQueryData(['session'], await call<Session>('session', 'POST', { email, password }));
    } catch (error) {
      setFault(error instanceof ApiError ? error.message : 'Signing in failed. Try again.');
      setBusy(false);
    }
  };
  return (
    <main className="min-h-screen grid grid-rows-[1fr_auto_1fr]">
      <div />
      <div className="w-[400px] max-w-[92vw] mx-auto pb-10">
        <p className="flex items-center gap-[9px] font-extrabold text-[17px] mb-8">
          <Mark />
          Underpass
        </p>
        <h1>Sign in</h1>
        <p className="text-ink-2 mt-1 mb-6">See what happens between a desk and its desktop, and change it before it hurts.</p>
        <form onSubmit={(event) => void submit(event)} className="grid grid-cols-[88px_1fr] gap-y-3 items-center">
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
            aria-invalid={fault !== null}
            onChange={(event) => setEmail(event.target.value)}
            autoFocus
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
            aria-invalid={fault !== null}
            aria-describedby="fault"
            onChange={(event) => setPassword(event.target.value)}
          />
          <p id="fault" role="alert" className="col-start-2 text-brick empty:hidden">
            {fault}
          </p>
          <div className="col-start-2">
            <button className="btn btn-primary" disabled={busy}>
              {busy ? 'Signing in' : 'Sign in'}
            </button>
          </div>
        </form>
      </div>
      <div className="bg-earth border-t-[1.5px] border-ink relative">
        <svg className="absolute inset-x-0 top-0 w-full h-16" aria-hidden preserveAspectRatio="none">
          <rect x="0" y="26" width="100%" height="24" fill="var(--bore)" />
        </svg>
      </div>
    </main>
  );
}
