import { zodResolver } from '@hookform/resolvers/zod';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { NewScimFeed, type ScimFeedMade, type ScimFeedView } from '@underpass/contracts';
import { soMany } from '../../ui/figures.js';
import { useState } from 'react';
import { call } from '../../api/client.js';
import { useSession } from '../../api/session.js';
import { CopyLine } from '../../ui/CopyLine.js';
import { Labelled } from '../../ui/form/Labelled.js';
import { useSent } from '../../ui/form/useSent.js';
import { Failed, Loading } from '../../ui/States.js';
import { moment } from '../../ui/times.js';
import { useAction } from '../../ui/useAction.js';
import { intakeQueries } from '../queries.js';
import { FeedOutcome } from './FeedOutcome.js';

const places = {
  locality: 'the town of its address',
  department: 'its department',
  division: 'its division',
  nothing: 'nothing: where nobody knows',
} as const;

/** Directories that send people and groups themselves, and the tokens they come with. */
export function ScimSection() {
  const asked = useQuery(intakeQueries.scim());
  const admin = useSession().data?.role === 'admin';
  const [made, setMade] = useState<ScimFeedMade | null>(null);
  if (asked.isPending) return <Loading what="the directories that send" />;
  if (!asked.data) return <Failed what="The directories that send" error={asked.error} onRetry={() => void asked.refetch()} />;
  return (
    <section aria-labelledby="scim" className="mt-9">
      <h2 id="scim">Directories that send</h2>
      <p className="text-ink-2 max-w-[760px]">
        An identity provider pushes people and groups by SCIM 2.0. Groups of the same name as here keep what they give; who may not sign in
        any more is in no group.
      </p>
      {made && <Made made={made} onDone={() => setMade(null)} />}
      {asked.data.length > 0 && (
        <ul className="mt-2 border-t border-rule">
          {asked.data.map((feed) => (
            <Feed key={feed.id} feed={feed} admin={admin} onMade={setMade} />
          ))}
        </ul>
      )}
      {asked.data.length === 0 && <p className="text-ink-3 mt-2">None yet.{admin ? '' : ' An administrator adds one.'}</p>}
      {admin && <AddFeed onMade={setMade} />}
    </section>
  );
}

/** Where it sends to, and the token that is told this once. */
function Made({ made: { feed, token }, onDone }: { made: ScimFeedMade; onDone: () => void }) {
  return (
    <div role="status" className="mt-3 border border-rule-2 bg-sheet p-4 max-w-[760px]">
      <p className="font-semibold">Give {feed.name} these two</p>
      <CopyLine label="Address of the service" value={feed.address} />
      <CopyLine label="Token; it is shown this once" value={token} />
      <button className="btn mt-3" onClick={onDone}>
        I have it
      </button>
    </div>
  );
}

function Feed({ feed, admin, onMade }: { feed: ScimFeedView; admin: boolean; onMade: (made: ScimFeedMade) => void }) {
  const client = useQueryClient();
  const { busy, fault, run } = useAction();
  const refresh = () => client.invalidateQueries({ queryKey: intakeQueries.scim().queryKey });
  const { id, name, options, users, groups, last, lastAt } = feed;
  return (
    <li className="border-b border-rule py-2" aria-label={name}>
      <div className="flex flex-wrap gap-x-5 gap-y-1 items-baseline">
        <span className="font-semibold min-w-[200px]">{name}</span>
        <span className="text-ink-2 flex-1">
          {soMany(users, 'person', 'people')}, {soMany(groups, 'group')}; place by {places[options.placeFrom]}
          {options.makePlaces && ', made where it is not there'}
        </span>
        {admin && (
          <span className="flex gap-2">
            <button
              className="btn btn-small"
              disabled={busy}
              aria-label={`Another token for ${name}`}
              onClick={() =>
                void run(async () => {
                  onMade(await call<ScimFeedMade>(`intake/scim/${id}/token`, 'POST'));
                  return { text: `The token before is worth nothing any more.` };
                })
              }
            >
              Another token
            </button>
            <button
              className="btn btn-small"
              disabled={busy}
              aria-label={`Stop listening to ${name}`}
              onClick={() =>
                void run(async () => {
                  await call(`intake/scim/${id}`, 'DELETE');
                  await refresh();
                  return { text: `${name} is not listened to any more. The people and groups it brought stay.` };
                })
              }
            >
              Stop listening
            </button>
          </span>
        )}
      </div>
      {last && lastAt ? (
        <FeedOutcome last={last} at={lastAt} />
      ) : (
        <p className="text-ink-3">It has sent nothing yet. It sends to {feed.address}</p>
      )}
      <p role="alert" className="text-brick empty:hidden">
        {fault}
      </p>
      <span className="sr-only">Added {moment(feed.at)}</span>
    </li>
  );
}

const blank = { name: '', options: { placeFrom: 'locality' as const, makePlaces: false } };

function AddFeed({ onMade }: { onMade: (made: ScimFeedMade) => void }) {
  const client = useQueryClient();
  const form = useSent({ defaultValues: blank, resolver: zodResolver(NewScimFeed) }, async (feed) => {
    onMade(await call<ScimFeedMade>('intake/scim', 'POST', feed));
    await client.invalidateQueries({ queryKey: intakeQueries.scim().queryKey });
  });
  return (
    <details className="mt-3">
      <summary className="cursor-pointer font-semibold">Add a directory that sends</summary>
      <form
        className="grid grid-cols-1 min-[640px]:grid-cols-[150px_1fr] gap-y-2 mt-2 items-start"
        noValidate
        onSubmit={(event) => void form.send(true)(event)}
      >
        <Labelled id="scim-name" label="Name" fault={form.faultOf('name')} {...form.register('name')} />
        <label htmlFor="scim-place" className="pt-1.5">
          Place is told by
        </label>
        <select id="scim-place" className="field w-[320px] max-w-full" {...form.register('options.placeFrom')}>
          {Object.entries(places).map(([key, words]) => (
            <option key={key} value={key}>
              {words}
            </option>
          ))}
        </select>
        <span />
        <label className="flex gap-2 items-center">
          <input type="checkbox" {...form.register('options.makePlaces')} />
          make places that are not there
        </label>
        <span />
        <span>
          <button className="btn btn-primary" disabled={form.busy}>
            Add it and make its token
          </button>
          <span role="alert" className="block text-brick empty:hidden">
            {form.fault}
          </span>
        </span>
      </form>
    </details>
  );
}
