import { useQuery } from '@tanstack/react-query';
import { zodResolver } from '@hookform/resolvers/zod';
import { Role, roleWords, UserRequest, type UserView } from '@underpass/contracts';
import { Link } from 'react-router';
import { call } from '../api/client.js';
import { useSession } from '../api/session.js';
import { Failed, Loading } from '../ui/States.js';
import { RulesForm } from './RulesForm.js';
import { useTitle } from '../shell/useTitle.js';
import { Labelled } from '../ui/form/Labelled.js';
import { useSent } from '../ui/form/useSent.js';
import { useAction } from '../ui/useAction.js';
import { signinQueries } from './queries.js';

const does: Record<Role, string> = { reader: 'sees, changes nothing', engineer: 'sees and changes', admin: 'also says who may sign in' };
const empty: UserRequest = { email: '', name: '', role: 'engineer', password: '' };

/** Who may sign in: for administrators. Nobody's password is ever shown. */
export function SignInsPage() {
  const session = useSession();
  const users = useQuery(signinQueries.users());
  useTitle('Who may sign in');
  return (
    <div className="px-6 pt-[15px] max-w-[1080px]">
      <div className="flex items-baseline gap-4">
        <h1 className="flex-1">Who may sign in</h1>
        <Link className="btn" to="/sign-ins/log">
          Log of the doors
        </Link>
      </div>
      {users.isPending && <Loading what="the sign-ins" />}
      {users.isError && <Failed what="The sign-ins" error={users.error} onRetry={() => void users.refetch()} />}
      <ul className="mt-3 border-t-[1.5px] border-ink">
        {users.data?.map((user) => (
          <UserRow key={user.id} user={user} own={user.email === session.data?.email} />
        ))}
      </ul>
      <h2 className="mt-6">Add somebody</h2>
      <AddSignIn />
      <h2 className="mt-8 border-t-[1.5px] border-ink pt-3">Rules</h2>
      <RulesForm />
    </div>
  );
}

function UserRow({ user, own }: { user: UserView; own: boolean }) {
  const { run } = useAction('foot');
  return (
    <li className="border-b border-rule py-1.5 flex flex-wrap gap-x-4 gap-y-1 items-center">
      <b className="w-[180px] font-semibold">{user.name}</b>
      <span className="flex-1 min-w-[180px] break-all">{user.email}</span>
      <span className="w-[130px] text-ink-2">
        {user.throughProvider ? 'organisation’s sign-in' : user.factor ? 'second factor' : 'password only'}
      </span>
      <label className="sr-only" htmlFor={`role-${user.id}`}>
        Role of {user.name}
      </label>
      <select
        id={`role-${user.id}`}
        className="field !h-[26px] w-[134px]"
        value={user.role}
        disabled={own || user.throughProvider}
        title={user.throughProvider ? 'The role comes from the organisation’s sign-in' : undefined}
        onChange={(event) => void run(() => call(`users/${user.id}`, 'PATCH', { role: event.target.value }))}
      >
        {Role.options.map((role) => (
          <option key={role} value={role}>
            {roleWords[role]}
          </option>
        ))}
      </select>
      {user.factor && !own ? (
        <button
          className="btn btn-small"
          aria-label={`Take the second factor of ${user.name} away, for a lost device`}
          onClick={() => void run(() => call(`users/${user.id}/factor`, 'DELETE'))}
        >
          Factor lost
        </button>
      ) : (
        <span className="w-[90px] max-[719px]:hidden" />
      )}
      {own ? (
        <span className="text-ink-3 w-[90px] text-right">you</span>
      ) : (
        <button
          className="btn btn-small w-[90px]"
          aria-label={`Take the sign-in of ${user.name} away`}
          onClick={() => void run(() => call(`users/${user.id}`, 'DELETE'))}
        >
          Take away
        </button>
      )}
    </li>
  );
}

function AddSignIn() {
  const form = useSent(
    { defaultValues: empty, resolver: zodResolver(UserRequest) },
    async (user) => void (await call('users', 'POST', user)),
  );
  const field = (name: keyof typeof empty, label: string, type = 'text') => (
    <Labelled id={`user-${name}`} label={label} type={type} fault={form.faultOf(name)} {...form.register(name)} />
  );
  return (
    <form
      className="grid grid-cols-1 min-[640px]:grid-cols-[90px_1fr] gap-y-2 mt-2"
      noValidate
      onSubmit={(event) => void form.send(true)(event)}
    >
      {field('email', 'Address')}
      {field('name', 'Name')}
      <label htmlFor="user-role" className="pt-1.5">
        Role
      </label>
      <select id="user-role" className="field w-[320px] max-w-full" {...form.register('role')}>
        {Role.options.map((role) => (
          <option key={role} value={role}>
            {roleWords[role]}: {does[role]}
          </option>
        ))}
      </select>
      {field('password', 'Password', 'password')}
      <p role="alert" className="min-[640px]:col-start-2 text-brick empty:hidden">
        {form.fault ?? (Object.keys(form.formState.errors).length > 0 ? 'Nobody was added. Mend the fields above.' : null)}
      </p>
      <div className="min-[640px]:col-start-2">
        <button className="btn btn-primary" disabled={form.busy}>
          Add sign-in
        </button>
      </div>
    </form>
  );
}
