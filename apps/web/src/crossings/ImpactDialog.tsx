import type { Change } from '@underpass/contracts';
import type { Impact } from '@underpass/core';
import { useLong } from '../api/jobs.js';
import { Dialog } from '../ui/Dialog.js';
import { barOrder, CountRow, PeopleBar } from '../ui/PeopleBar.js';
import { Failed, Loading } from '../ui/States.js';
import { Work } from '../ui/Work.js';
import { ImpactPicture } from './ImpactPicture.js';

/** What the change would do to everybody: who gets better, who gets worse, and the worst loser by name. */
export function ImpactDialog({ change, summary, onClose }: { change: Change; summary: string; onClose: () => void }) {
  const impact = useLong<Impact>('impact', { change });
  const { data } = impact;
  const all = data ? barOrder.reduce((sum, verdict) => sum + data.before[verdict], 0) : 1;
  return (
    <Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      title="Impact on the estate"
      description={`${summary}. On paper, nothing is applied.`}
      wide
    >
      {impact.job ? (
        <Work job={impact.job} onCancel={onClose} />
      ) : (
        !data && !impact.error && <Loading what="every crossing it touches to be evaluated" />
      )}
      {impact.error && <Failed what="The impact" error={impact.error} onRetry={impact.again} />}
      {data && (
        <>
          <p className="text-[15px] leading-5">
            {data.changedVerdict} of the {data.crossings} crossings it touches change their verdict; {data.better} get better, {data.worse}{' '}
            get worse.
            {data.come > 0 && ` ${data.come} are new.`}
            {data.gone > 0 && ` ${data.gone} would be no more.`}
          </p>
          <table className="mt-3">
            <tbody>
              {(['before', 'after'] as const).map((when) => (
                <tr key={when}>
                  <th scope="row" className="text-left font-normal text-ink-3 pr-4">
                    People {when}
                  </th>
                  <td className="pr-4 py-1">
                    <PeopleBar counts={data[when]} perPerson={460 / all} most={460} />
                  </td>
                  <td>
                    <CountRow counts={data[when]} />
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          <div className="mt-4 max-w-[460px]">
            <ImpactPicture data={data} />
          </div>
        </>
      )}
    </Dialog>
  );
}
