import { useQueryClient } from '@tanstack/react-query';
import type { Session } from '@underpass/contracts';
import { Dialog } from '../ui/Dialog.js';
import { SignInForm } from './SignInForm.js';

/** The session ended while somebody worked: the page and what is typed on it stay beneath. */
export function SignInAgain({ was }: { was: Session }) {
  const client = useQueryClient();
  return (
    <Dialog
      open
      onOpenChange={() => undefined}
      closable={false}
      title="Sign in again"
      description="Your session has ended. What you typed is still on the page; sign in to go on with it."
    >
      {was.throughProvider ? (
        <a className="btn btn-primary" href="/api/session/provider">
          Sign in with your organisation
        </a>
      ) : (
        <SignInForm
          address={was.email}
          onDone={(session) => {
            client.setQueryData(['session'], session);
            void client.invalidateQueries();
          }}
        />
      )}
    </Dialog>
  );
}
