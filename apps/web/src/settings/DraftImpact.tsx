import type { Change } from '@underpass/contracts';
import type { Impact } from '@underpass/core';
import { useQuery } from '@tanstack/react-query';
import { useLong } from '../api/jobs.js';
import { Failed, Loading } from '../ui/States.js';
import { Work } from '../ui/Work.js';
import { ImpactPicture } from '../crossings/ImpactPicture.js';
import { settingsQueries } from './queries.js';

/** What a draft does to everybody, with progress, and called off when it is left; and the checks it makes hit. */
export function DraftImpact({ change }: { change: Change }) {
  const impact = useLong<Impact>('impact', { change });
  return (
    <div aria-live="polite">
      {impact.job ? (
        <Work job={impact.job} />
      ) : (
        !impact.data && !impact.error && <Loading what="every crossing it touches to be evaluated" />
      )}
      {impact.error && <Failed what="The impact" error={impact.error} onRetry={impact.again} />}
      {impact.data && <ImpactPicture data={impact.data} />}
      <DraftChecks change={change} />
    </div>
  );
}

function DraftChecks({ change }: { change: Change }) {
  const { data } = useQuery(settingsQueries.lintAfter(change));
  if (!data || data.fresh.length + data.gone.length === 0) return null;
  return (
    <section className="mt-3" aria-label="Checks between settings">
      <h3 className="font-bold">What does not fit then</h3>
      <ul>
        {data.fresh.map(({ rule, cause, crossings }) => (
          <li key={rule} className="border-b border-rule py-1">
            <b className="font-semibold block text-amber">{rule.slice(0, 1).toUpperCase() + rule.slice(1)}</b>
            <span className="text-[12.5px] text-ink-2">
              {cause}; on {crossings} {crossings === 1 ? 'crossing' : 'crossings'}
            </span>
          </li>
        ))}
        {data.gone.map(({ rule }) => (
          <li key={rule} className="border-b border-rule py-1 text-ink-2">
            No more: {rule}
          </li>
        ))}
      </ul>
    </section>
  );
}
