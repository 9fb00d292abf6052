import { useInfiniteQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { useTitle } from '../shell/useTitle.js';
import { ExportButton } from '../ui/ExportButton.js';
import { Empty, Failed, Loading } from '../ui/States.js';
import { moment } from '../ui/times.js';
import { Wide } from '../ui/Wide.js';
import { signinQueries } from './queries.js';

const weighty = new Set([
  'sign-in refused',
  'token refused',
  'provider refused',
  'role changed',
  'user removed',
  'spare code used',
  'second factor removed',
]);

/** What happened at the doors, the latest first. */
export function SecurityLogPage() {
  const log = useInfiniteQuery(signinQueries.log());
  useTitle('Log of the doors');
  const events = log.data?.pages.flat() ?? [];
  return (
    <div className="px-6 pt-[15px] max-w-[1180px]">
      <p className="text-ink-3">
        <Link className="link" to="/sign-ins">
          Who may sign in
        </Link>
      </p>
      <div className="flex items-baseline gap-4 flex-wrap">
        <h1>Log of the doors</h1>
        <span className="text-ink-3 flex-1">sign-ins, factors, rights and exports; never a password or a code</span>
        <ExportButton path="security-log/exports" body={{ format: 'syslog' }} name="security.log">
          Export as log lines
        </ExportButton>
        <ExportButton path="security-log/exports" body={{ format: 'json' }} name="security.json">
          Export as JSON
        </ExportButton>
      </div>
      {log.isPending && <Loading what="the log" />}
      {log.isError && <Failed what="The log" error={log.error} onRetry={() => void log.refetch()} />}
      {log.data && events.length === 0 && <Empty>Nothing happened yet.</Empty>}
      {events.length > 0 && (
        <Wide label="What happened" className="mt-3">
          <table className="w-full min-w-[560px]">
            <thead className="head">
              <tr>
                {['When', 'What', 'Who', 'From', 'More'].map((each) => (
                  <th key={each} scope="col" className="font-normal">
                    {each}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {events.map((event) => (
                <tr key={event.id} className="border-b border-rule h-[26px]">
                  <td className="pr-4 whitespace-nowrap text-ink-2">{moment(event.at)}</td>
                  <td className={`pr-4 whitespace-nowrap ${weighty.has(event.kind) ? 'font-bold' : ''}`}>
                    {(event.kind[0] as string).toUpperCase() + event.kind.slice(1)}
                  </td>
                  <td className="pr-4">{event.who}</td>
                  <td className="pr-4 mono">{event.address}</td>
                  <td className="text-ink-2 break-words">{event.about}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </Wide>
      )}
      {log.hasNextPage && (
        <button className="btn mt-3" disabled={log.isFetching} onClick={() => void log.fetchNextPage()}>
          Show earlier ones
        </button>
      )}
    </div>
  );
}
