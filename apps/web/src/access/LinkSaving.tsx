import { useQuery } from '@tanstack/react-query';
import type { Named } from '@underpass/contracts';
import { signonQueries } from '../signon/queries.js';
import { fixed } from '../ui/figures.js';

/** What a link saves those it is for, an opening and in a year: a clause without a capital. */
export function LinkSaving({ resource, kind = '', target = null }: { resource: Named; kind?: string; target?: Named | null }) {
  const whom = { resource: resource.id, ...(target ? { [kind]: target.id } : {}) };
  const { data } = useQuery(signonQueries.savings(whom));
  const saving = data?.savings.find(({ id }) => id === 'entry link');
  if (!data) return null;
  const who = target ? (kind === 'person' ? target.name : `${whoIs[kind] ?? ''} ${target.name}`) : '';
  if (data.people === 0)
    return (
      <>
        {kind === 'person' && target ? `${target.name} does not have` : `nobody ${who} has`} {resource.name} on an endpoint.
      </>
    );
  if (!saving || saving.people === 0)
    return (
      <>Saves nothing: {kind === 'person' && target ? target.name : `everybody ${who}`} starts from a link or straight away already.</>
    );
  return (
    <>
      saves <b>{fixed(saving.savedS, 1)} s</b> an opening, about <b>{hours(saving.hoursAYear)}</b> a year
      {kind !== 'person' && ` for the ${saving.people} ${saving.people === 1 ? 'person' : 'people'} ${who} who now start from the list`}
      <span className="text-ink-3">
        {' '}
        ({data.signInsPerDay} sign-ins on {data.workingDays} days)
      </span>
      .
    </>
  );
}

const whoIs: Record<string, string> = { endpoint: 'on', location: 'at', group: 'in' };
const hours = (hoursAYear: number): string =>
  hoursAYear < 0.95 ? `${Math.max(1, Math.round(hoursAYear * 60))} minutes` : `${Math.round(hoursAYear)} hours`;
