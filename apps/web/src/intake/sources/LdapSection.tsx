import { useQuery, useQueryClient } from '@tanstack/react-query';
import type { JobStarted, LdapFeedView } from '@underpass/contracts';
import { useEffect, useState } from 'react';
import { call } from '../../api/client.js';
import { cancelJob, useJob } from '../../api/jobs.js';
import { useCanEdit, useSession } from '../../api/session.js';
import { Failed, Loading } from '../../ui/States.js';
import { moment } from '../../ui/times.js';
import { useAction } from '../../ui/useAction.js';
import { useTyped } from '../../ui/useTyped.js';
import { Work } from '../../ui/Work.js';
import { intakeQueries } from '../queries.js';
import { FeedOutcome } from './FeedOutcome.js';
import { LdapForm } from './LdapForm.js';

/** Directories that are read, by themselves or when somebody says so. */
export function LdapSection() {
  const asked = useQuery(intakeQueries.ldap());
  const admin = useSession().data?.role === 'admin';
  const [open, setOpen] = useTyped<string | null>('ldap.open', null);
  if (asked.isPending) return <Loading what="the directories that are read" />;
  if (!asked.data) return <Failed what="The directories that are read" error={asked.error} onRetry={() => void asked.refetch()} />;
  return (
    <section aria-labelledby="ldap" className="mt-9">
      <h2 id="ldap">Directories that are read</h2>
      <p className="text-ink-2 max-w-[760px]">
        People, nested groups and places by LDAP, read only. Where more people would leave than its limit, it stops and asks.
      </p>
      {asked.data.length > 0 && (
        <ul className="mt-2 border-t border-rule">
          {asked.data.map((feed) =>
            open === feed.id ? (
              <li key={feed.id} className="border-b border-rule py-3">
                <LdapForm feed={feed} onDone={() => setOpen(null)} />
              </li>
            ) : (
              <Feed key={feed.id} feed={feed} admin={admin} onOpen={() => setOpen(feed.id)} />
            ),
          )}
        </ul>
      )}
      {asked.data.length === 0 && <p className="text-ink-3 mt-2">None yet.{admin ? '' : ' An administrator adds one.'}</p>}
      {admin &&
        (open === 'new' ? (
          <div className="mt-3 border-t border-rule pt-3">
            <LdapForm onDone={() => setOpen(null)} />
          </div>
        ) : (
          <button className="btn mt-3" onClick={() => setOpen('new')}>
            Add a directory that is read
          </button>
        ))}
    </section>
  );
}

function Feed({ feed, admin, onOpen }: { feed: LdapFeedView; admin: boolean; onOpen: () => void }) {
  const client = useQueryClient();
  const canEdit = useCanEdit();
  const { busy, fault, run } = useAction();
  const [job, setJob] = useState<string | null>(null);
  const work = useJob(job);
  const ended = work.ended?.id;
  const { id, name, settings, last, lastAt, nextAt } = feed;
  useEffect(() => {
    if (ended) void client.invalidateQueries({ queryKey: ['intake', 'ldap'] });
  }, [ended, client]);
  const read = (allow: boolean) =>
    void run(async () => {
      setJob((await call<JobStarted>(`intake/ldap/${id}/run`, 'POST', { allow })).job.id);
    });
  const waits = busy || work.job !== null;
  return (
    <li className="border-b border-rule py-2" aria-label={name}>
      <div className="flex flex-wrap gap-x-5 gap-y-1 items-baseline">
        <span className="font-semibold min-w-[200px]">{name}</span>
        <span className="text-ink-2 flex-1">
          <span className="mono">{settings.address}</span>, {settings.base}
          <span className="text-ink-3">; {nextAt ? `next ${moment(nextAt)}` : 'read when somebody says so'}</span>
        </span>
        <span className="flex gap-2">
          {canEdit && (
            <button className="btn btn-small" disabled={waits} aria-label={`Read ${name} now`} onClick={() => read(false)}>
              Read it now
            </button>
          )}
          {admin && (
            <>
              <button className="btn btn-small" disabled={waits} aria-label={`Settings of ${name}`} onClick={onOpen}>
                Settings
              </button>
              <button
                className="btn btn-small"
                disabled={waits}
                aria-label={`Stop reading ${name}`}
                onClick={() =>
                  void run(async () => {
                    await call(`intake/ldap/${id}`, 'DELETE');
                    await client.invalidateQueries({ queryKey: ['intake', 'ldap'] });
                    return { text: `${name} is not read any more. The people and groups it brought stay.` };
                  })
                }
              >
                Stop reading
              </button>
            </>
          )}
        </span>
      </div>
      {work.job ? (
        <Work job={work.job} onCancel={() => void cancelJob(work.job?.id ?? '')} />
      ) : last && lastAt ? (
        <FeedOutcome last={last} at={lastAt} />
      ) : (
        <p className="text-ink-3">It has not been read yet.</p>
      )}
      {!work.job && last?.state === 'stopped' && canEdit && (
        <button className="btn btn-small mt-1" disabled={waits} onClick={() => read(true)}>
          Let the {last.left} leave
        </button>
      )}
      <p role="alert" className="text-brick empty:hidden">
        {fault}
      </p>
    </li>
  );
}
