import type { Session } from '@underpass/contracts';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { ApiError, call } from '../api/client.js';
import { Labelled } from '../ui/form/Labelled.js';

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
  const form = useForm({ defaultValues: { email: address ?? '', password: '', code: '' } });
  const [asksCode, setAsksCode] = useState(false);
  const { errors, isSubmitting, isSubmitSuccessful } = form.formState;
  const submit = form.handleSubmit(async ({ email, password, code }) => {
    try {
      onDone(await call<Session>('session', 'POST', { email, password, ...(code ? { code } : {}) }));
    } catch (error) {
      const problem = error instanceof ApiError ? error.problem : null;
      const wantsCode = problem?.needs === 'code';
      if (wantsCode && !asksCode) return setAsksCode(true);
      const field = wantsCode || problem?.fields?.[0]?.field === 'code' ? 'code' : 'password';
      form.setError(field, { message: problem?.detail ?? 'Signing in failed. Try again.' });
    }
  });
  const fault = errors.password?.message ?? errors.code?.message;
  const busy = isSubmitting || (isSubmitSuccessful && !asksCode);
  return (
    <form onSubmit={(event) => void submit(event)} className="grid grid-cols-[88px_1fr] gap-y-3 items-center">
      <Labelled
        id="email"
        label="Address"
        inputMode="email"
        autoComplete="username"
        className="field w-full"
        required
        autoFocus={address === undefined}
        aria-invalid={errors.password !== undefined}
        {...form.register('email')}
      />
      <Labelled
        id="password"
        label="Password"
        type="password"
        autoComplete="current-password"
        className="field w-full"
        required
        autoFocus={address !== undefined}
        aria-invalid={errors.password !== undefined}
        aria-describedby="fault"
        {...form.register('password')}
      />
      {asksCode && (
        <Labelled
          id="code"
          label="Code"
          inputMode="numeric"
          autoComplete="one-time-code"
          className="field mono w-full"
          required
          autoFocus
          hint="The six digits your authenticator shows now, or one of your spare codes."
          aria-invalid={errors.code !== undefined}
          {...form.register('code')}
        />
      )}
      <p id="fault" role="alert" className="col-start-2 text-brick empty:hidden">
        {fault}
      </p>
      <div className="col-start-2">
        <button className={`btn ${second ? '' : 'btn-primary'}`} disabled={busy && fault === undefined}>
          {busy && fault === undefined ? 'Signing in' : 'Sign in'}
        </button>
      </div>
    </form>
  );
}
