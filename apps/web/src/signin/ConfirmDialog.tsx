import { useState } from 'react';
import { ApiError, call } from '../api/client.js';
import { useSession } from '../api/session.js';
import { useConfirmation } from '../api/signals.js';
import { Dialog } from '../ui/Dialog.js';

/** Asks for the password once more before something weighty; what was asked goes on by itself afterwards. */
export function ConfirmDialog() {
  const done = useConfirmation();
  return done ? <Ask done={done} /> : null;
}

function Ask({ done }: { done: (given: boolean) => void }) {
  const session = useSession();
  const [password, setPassword] = useState('');
  const [code, setCode] = useState<string | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const confirm = async () => {
    setBusy(true);
    setFault(null);
    try {
      await call('session/confirm', 'POST', { password, ...(code ? { code } : {}) });
      return done(true);
    } catch (error) {
      if (error instanceof ApiError && error.problem.needs === 'code' && code === null) setCode('');
      else
        setFault(
          error instanceof ApiError && error.status === 401 && code === null ? 'The password is not right.' : (error as Error).message,
        );
    }
    setBusy(false);
  };
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
        <form
          className="grid grid-cols-[88px_minmax(0,280px)] gap-y-3 items-center"
          onSubmit={(event) => {
            event.preventDefault();
            void confirm();
          }}
        >
          <label htmlFor="confirm-password">Password</label>
          <input
            id="confirm-password"
            type="password"
            autoComplete="current-password"
            className="field"
            required
            autoFocus
            value={password}
            aria-invalid={fault !== null}
            aria-describedby="confirm-fault"
            onChange={(event) => setPassword(event.target.value)}
          />
          {code !== null && (
            <>
              <label htmlFor="confirm-code">Code</label>
              <input
                id="confirm-code"
                inputMode="numeric"
                autoComplete="one-time-code"
                className="field mono"
                required
                autoFocus
                value={code}
                onChange={(event) => setCode(event.target.value)}
              />
            </>
          )}
          <p id="confirm-fault" role="alert" className="col-start-2 text-brick empty:hidden">
            {fault}
          </p>
          <div className="col-start-2 flex gap-3">
            <button className="btn btn-primary" disabled={busy}>
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
