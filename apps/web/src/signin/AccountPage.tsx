import { useQuery } from '@tanstack/react-query';
import { zodResolver } from '@hookform/resolvers/zod';
import { PasswordForm, roleWords, type OwnAccount } from '@underpass/contracts';
import { useSearchParams } from 'react-router';
import { call } from '../api/client.js';
import { useSession } from '../api/session.js';
import { useTitle } from '../shell/useTitle.js';
import { Labelled } from '../ui/form/Labelled.js';
import { useSent } from '../ui/form/useSent.js';
import { useAction } from '../ui/useAction.js';
import { signinQueries } from './queries.js';
import { Failed, Loading } from '../ui/States.js';
import { moment } from '../ui/times.js';
import { Wide } from '../ui/Wide.js';
import { FactorSection } from './FactorSection.js';

/** One's own account: the password, the second factor, and where one is signed in. */
export function AccountPage() {
  const session = useSession();
  const account = useQuery(signinQueries.account());
  const [search] = useSearchParams();
  useTitle('Your account');
  if (!session.data) return null;
  return (
    <div className="px-6 pt-[15px] max-w-[1000px]">
      <h1>{session.data.name}</h1>
      <p className="text-ink-2">
        {session.data.email}, {roleWords[session.data.role]}
      </p>
      {session.data.mustSetUpFactor && (
        <p role="status" className="mt-3 text-amber font-bold">
          Your role asks for a second factor. Set it up below; then everything else is open to you.
        </p>
      )}
      {search.get('confirmed') === 'yes' && (
        <p role="status" className="mt-3 font-bold">
          Confirmed. For ten minutes what is weighty goes on without asking: go back to it now.
        </p>
      )}
      {account.isPending && <Loading what="your account" />}
      {account.isError && <Failed what="Your account" error={account.error} onRetry={() => void account.refetch()} />}
      {account.data && (
        <>
          <FactorSection account={account.data} throughProvider={session.data.throughProvider} />
          {session.data.throughProvider ? (
            <section aria-labelledby="password-title" className="mt-6 border-t-[1.5px] border-ink pt-3">
              <h2 id="password-title">Password</h2>
              <p className="text-ink-2 mt-1">You sign in through your organisation; the password is changed there.</p>
            </section>
          ) : (
            <PasswordSection factor={account.data.factor} email={session.data.email} />
          )}
          <Sessions account={account.data} />
        </>
      )}
    </div>
  );
}

const blank = { password: '', code: '', next: '' };
function PasswordSection({ factor, email }: { factor: boolean; email: string }) {
  const form = useSent({ defaultValues: blank, resolver: zodResolver(PasswordForm) }, async (request) => {
    await call('account/password', 'PUT', request);
    return { text: 'Your password is changed. Everywhere else you are signed out.' };
  });
  const faultOf = (name: keyof typeof blank) => {
    const fault = form.faultOf(name);
    return name === 'password' && fault
      ? 'This is not your password.'
      : (fault ?? (name === 'next' ? (form.fault ?? undefined) : undefined));
  };
  const field = (name: keyof typeof blank, label: string, autoComplete: string, hint?: string) => (
    <Labelled
      id={`own-${name}`}
      label={label}
      type={name === 'code' ? 'text' : 'password'}
      autoComplete={autoComplete}
      fault={faultOf(name)}
      hint={hint}
      {...form.register(name)}
    />
  );
  return (
    <section aria-labelledby="password-title" className="mt-6 border-t-[1.5px] border-ink pt-3">
      <h2 id="password-title">Password</h2>
      <form
        className="grid grid-cols-1 min-[640px]:grid-cols-[120px_1fr] gap-y-2 mt-2"
        noValidate
        onSubmit={(event) => void form.send(true)(event)}
      >
        <input type="hidden" autoComplete="username" value={email} />
        {field('password', 'Now', 'current-password')}
        {factor && field('code', 'Code', 'one-time-code')}
        {field('next', 'New', 'new-password', 'At least 12 characters; three or four words that do not belong together are good')}
        <div className="min-[640px]:col-start-2">
          <button className="btn btn-primary" disabled={form.busy}>
            Change the password
          </button>
          <span className="ml-3 text-ink-3">Everywhere else you are signed out.</span>
        </div>
      </form>
    </section>
  );
}

function Sessions({ account }: { account: OwnAccount }) {
  const { run } = useAction('foot');
  const end = (id: string) =>
    void run(async () => {
      await call(`account/sessions/${id}`, 'DELETE');
      return { text: 'That session is ended.' };
    });
  return (
    <section aria-labelledby="sessions-title" className="mt-6 border-t-[1.5px] border-ink pt-3">
      <h2 id="sessions-title">Where you are signed in</h2>
      <Wide label="Where you are signed in" className="mt-2">
        <table className="w-full min-w-[520px]">
          <thead className="head">
            <tr>
              <th scope="col" className="font-normal">
                With
              </th>
              <th scope="col" className="font-normal">
                From
              </th>
              <th scope="col" className="font-normal">
                Since
              </th>
              <th scope="col" className="font-normal">
                Last used
              </th>
              <th scope="col">
                <span className="sr-only">End it</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {account.sessions.map((session) => (
              <tr key={session.id} className="border-b border-rule h-[34px]">
                <td>{session.device}</td>
                <td className="mono">{session.address}</td>
                <td>{moment(session.createdAt)}</td>
                <td>{moment(session.usedAt)}</td>
                <td className="text-right">
                  {session.current ? (
                    <span className="text-ink-3">here and now</span>
                  ) : (
                    <button
                      className="btn btn-small"
                      aria-label={`End the session with ${session.device} since ${moment(session.createdAt)}`}
                      onClick={() => end(session.id)}
                    >
                      End it
                    </button>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </Wide>
    </section>
  );
}
