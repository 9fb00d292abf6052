import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { ApiError, call } from '../api/client.js';
import { useSession } from '../api/session.js';
import { useConfirmation } from '../api/signals.js';
import { Dialog } from '../ui/Dialog.js';
import { Labelled } from '../ui/form/Labelled.js';

/** Asks for the password once more before something weighty; what was asked goes on by itself afterwards. */
export function ConfirmDialog() {
  const done = useConfirmation();
  return done ? <Ask done={done} /> : null;
}

function Ask({ done }: { done: (given: boolean) => void }) {
  const session = useSession();
  const form = useForm({ defaultValues: { password: '', code: '' } });
  const [asksCode, setAsksCode] = useState(false);
  const { errors, isSubmitting } = form.formState;
  const confirm = form.handleSubmit(async ({ password, code }) => {
    try {
      await call('session/confirm', 'POST', { password, ...(code ? { code } : {}) });
      done(true);
    } catch (error) {
      if (error instanceof ApiError && error.problem.needs === 'code' && !asksCode) return setAsksCode(true);
      form.setError('password', {
        message: error instanceof ApiError && error.status === 401 && !asksCode ? 'The password is not right.' : (error as Error).message,
      });
    }
  });
  return (
    <Dialog
      open
      onOpenChange={(open) => !open && done(false)}
      title="Is it you?"
      description="This is weighty, so it is asked once more. For ten minutes it is not asked again."
    >
      {session.data?.throughProvider ? (
        <a className="btn btn-primary" href="/api/session/provider/confirm">
          Confirm with your organisation
        </a>
      ) : (
        <form className="grid grid-cols-[88px_minmax(0,280px)] gap-y-3 items-center" onSubmit={(event) => void confirm(event)}>
          <Labelled
            id="confirm-password"
            label="Password"
            type="password"
            autoComplete="current-password"
            className="field w-full"
            required
            autoFocus
            fault={errors.password?.message}
            {...form.register('password')}
          />
          {asksCode && (
            <Labelled
              id="confirm-code"
              label="Code"
              inputMode="numeric"
              autoComplete="one-time-code"
              className="field mono w-full"
              required
              autoFocus
              {...form.register('code')}
            />
          )}
          <div className="col-start-2 flex gap-3">
            <button className="btn btn-primary" disabled={isSubmitting}>
              Go on
            </button>
            <button type="button" className="btn" onClick={() => done(false)}>
              Leave it
            </button>
          </div>
        </form>
      )}
    </Dialog>
  );
}
