import { useQueryClient } from '@tanstack/react-query';
import { LdapSettings, type LdapFeedView, type LdapTried } from '@underpass/contracts';
import { useState } from 'react';
import { call, orLookAgain } from '../../api/client.js';
import { Labelled } from '../../ui/form/Labelled.js';
import { useKeptForm } from '../../ui/form/useKeptForm.js';
import { useSent } from '../../ui/form/useSent.js';
import { useAction } from '../../ui/useAction.js';
import { Wide } from '../../ui/Wide.js';
import { intakeQueries } from '../queries.js';

const often = [
  ['', 'when somebody says so'],
  ['15', 'every quarter of an hour'],
  ['60', 'every hour'],
  ['1440', 'every day'],
  ['10080', 'every week'],
] as const;

interface Typed {
  name: string;
  address: string;
  base: string;
  bindDn: string;
  secret: string;
  filter: string;
  keyAttribute: string;
  nameAttribute: string;
  placeAttribute: string;
  makePlaces: boolean;
  certificates: string;
  everyMinutes: string;
  limitPercent: string;
  /** The settings it was begun with: kept with what is typed, so that a reload does not take others' for seen. */
  was: string;
}
/** The settings of a directory as one text. */
const asSeen = (feed?: LdapFeedView): string => JSON.stringify(feed?.settings ?? null);

const usual = LdapSettings.parse({ address: 'ldaps://directory.example', base: 'dc=example' });

function typedOf(feed?: LdapFeedView): Typed {
  const { pageSize: _, ...of } = feed?.settings ?? { ...usual, address: 'ldaps://', base: '' };
  return {
    ...of,
    name: feed?.name ?? '',
    secret: '',
    everyMinutes: of.everyMinutes === null ? '' : String(of.everyMinutes),
    limitPercent: String(of.limitPercent),
    was: asSeen(feed),
  };
}
const settingsOf = ({ name: _, secret: __, was: ___, everyMinutes, limitPercent, ...rest }: Typed, feed?: LdapFeedView) => ({
  ...rest,
  pageSize: feed?.settings.pageSize ?? usual.pageSize,
  everyMinutes: everyMinutes === '' ? null : Number(everyMinutes),
  limitPercent: Number(limitPercent),
});

/** Where a directory is and how it is read; tried before it is kept. */
export function LdapForm({ feed, onDone }: { feed?: LdapFeedView; onDone: () => void }) {
  const client = useQueryClient();
  const { queryKey } = intakeQueries.ldap();
  const [tried, setTried] = useState<LdapTried | null>(null);
  const trying = useAction();
  const secretOf = ({ secret }: Typed) => (secret === '' ? {} : { secret });
  // what somebody else made of them meanwhile shows wherever nothing was typed
  const form = useSent<Typed>({ values: typedOf(feed), resetOptions: { keepDirtyValues: true } }, async (typed) => {
    const body = { settings: settingsOf(typed, feed), ...secretOf(typed) };
    if (feed)
      await orLookAgain(call(`intake/ldap/${feed.id}`, 'PUT', { ...body, was: JSON.parse(typed.was) as object }), async () => {
        await client.refetchQueries({ queryKey });
        // each field says what it is now: what is kept after that is kept knowingly
        const now = client.getQueryData(queryKey)?.find(({ id }) => id === feed.id);
        form.setValue('was', asSeen(now));
      });
    else await call('intake/ldap', 'POST', { name: typed.name, ...body });
    await client.invalidateQueries({ queryKey });
    leave();
    return { text: feed ? `The settings of ${feed.name} are kept.` : `${typed.name} is kept. It has not been read yet.` };
  });
  // a password is kept nowhere in the browser
  const { forget } = useKeptForm(form, `ldap.${feed?.id ?? 'new'}`, ['secret']);
  const leave = () => {
    forget();
    onDone();
  };
  const faultOf = (field: string) => {
    const { errors } = form.formState as { errors: Record<string, { message?: string } & Record<string, { message?: string }>> };
    return errors[field]?.message ?? errors.settings?.[field]?.message;
  };
  const attempt = () =>
    void trying.run(async () => {
      setTried(null);
      const typed = form.getValues();
      setTried(
        await call<LdapTried>('intake/ldap/try', 'POST', {
          settings: settingsOf(typed, feed),
          ...secretOf(typed),
          ...(feed ? { feed: feed.id } : {}),
        }),
      );
    });
  const field = (name: keyof Typed, label: string, more: { type?: string; placeholder?: string } = {}) => (
    <Labelled
      id={`ldap-${name}`}
      label={label}
      fault={faultOf(name) ?? trying.faults[`settings.${name}`]}
      {...more}
      {...form.register(name)}
    />
  );
  return (
    <form
      className="grid grid-cols-1 min-[640px]:grid-cols-[170px_1fr] gap-y-2 items-start"
      noValidate
      onSubmit={(event) => void form.send()(event)}
    >
      {!feed && field('name', 'Name')}
      {field('address', 'Address', { placeholder: 'ldaps://directory.example' })}
      {field('base', 'Beneath the entry', { placeholder: 'dc=saltmarsh,dc=example' })}
      {field('bindDn', 'Signs in as', { placeholder: 'cn=reader,dc=saltmarsh,dc=example' })}
      {field('secret', 'Password', {
        type: 'password',
        ...(feed?.hasSecret ? { placeholder: 'kept; type another one to change it' } : {}),
      })}
      <label htmlFor="ldap-every" className="pt-1.5">
        Is read
      </label>
      <span>
        <select id="ldap-every" className="field w-[320px] max-w-full" {...form.register('everyMinutes')}>
          {often.map(([value, words]) => (
            <option key={value} value={value}>
              {words}
            </option>
          ))}
        </select>
        <span className="block text-brick empty:hidden">{faultOf('everyMinutes')}</span>
      </span>
      {field('limitPercent', 'Stops where more leave than, %')}
      <details className="min-[640px]:col-span-2">
        <summary className="cursor-pointer font-semibold">Which entries, and what they are called</summary>
        <div className="grid grid-cols-1 min-[640px]:grid-cols-[170px_1fr] gap-y-2 mt-2 items-start">
          {field('filter', 'Filter')}
          {field('keyAttribute', 'People are found by', { placeholder: 'uid' })}
          {field('nameAttribute', 'People are called', { placeholder: 'displayName, else cn' })}
          {field('placeAttribute', 'They work at', { placeholder: 'the unit above them' })}
          <span />
          <label className="flex gap-2 items-center">
            <input type="checkbox" {...form.register('makePlaces')} />
            make places that are not there
          </label>
        </div>
      </details>
      <details className="min-[640px]:col-span-2">
        <summary className="cursor-pointer font-semibold">Who vouches for its certificate</summary>
        <div className="grid grid-cols-1 min-[640px]:grid-cols-[170px_1fr] gap-y-2 mt-2 items-start">
          <label htmlFor="ldap-certificates" className="pt-1.5">
            Their certificates
          </label>
          <span>
            <textarea
              id="ldap-certificates"
              className="w-full max-w-[560px] h-[90px] border border-rule-2 bg-sheet p-2 rounded-[2px] mono"
              placeholder="-----BEGIN CERTIFICATE-----"
              spellCheck={false}
              {...form.register('certificates')}
            />
            <span className="block text-ink-3">In PEM; empty: those every system knows</span>
          </span>
        </div>
      </details>
      <span />
      <span>
        <span className="flex flex-wrap gap-3">
          <button type="button" className="btn" disabled={trying.busy || form.busy} onClick={attempt}>
            {trying.busy ? 'Trying' : 'Try it'}
          </button>
          <button className="btn btn-primary" disabled={form.busy}>
            Keep it
          </button>
          <button type="button" className="btn btn-quiet" onClick={leave}>
            Leave it
          </button>
        </span>
        <span role="alert" className="block text-brick mt-1 empty:hidden">
          {form.fault ?? trying.fault}
        </span>
      </span>
      {tried && <Tried tried={tried} />}
    </form>
  );
}

/** The first entries a try found, as they would be taken. */
function Tried({ tried: { people, groups, notes } }: { tried: LdapTried }) {
  return (
    <div role="status" className="min-[640px]:col-span-2 mt-2 border-t border-rule pt-2">
      <p className="font-semibold">
        {people.length + groups.length === 0 ? 'Nobody and no group was found.' : 'The first that were found; nothing is written'}
      </p>
      {people.length > 0 && (
        <Wide label="People that were found">
          <table className="w-full border-collapse mt-1">
            <thead className="head">
              <tr>
                <th scope="col">Person</th>
                <th scope="col">Found by</th>
                <th scope="col">Place</th>
                <th scope="col">Groups</th>
              </tr>
            </thead>
            <tbody>
              {people.map(({ dn, key, name, place, groups: own }) => (
                <tr key={dn} className="border-b border-rule">
                  <th scope="row" className="text-left font-semibold py-0.5 pr-4">
                    {name}
                  </th>
                  <td className="pr-4 mono">{key}</td>
                  <td className="pr-4">{place ?? 'not said'}</td>
                  <td>{own.join(', ')}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </Wide>
      )}
      {groups.length > 0 && <p className="mt-1 text-ink-2">Groups: {groups.map(({ name }) => name).join(', ')}</p>}
      {notes.map((note) => (
        <p key={note} className="text-amber">
          {note}
        </p>
      ))}
    </div>
  );
}
