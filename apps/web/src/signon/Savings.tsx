import type { UseQueryResult } from '@tanstack/react-query';
import type { Named, SavingsView } from '@underpass/contracts';
import { Pick } from '../ui/Pick.js';
import { Failed, Loading } from '../ui/States.js';
import { fixed } from '../ui/figures.js';

/** What each shortcut would save a group, or everybody. */
export function Savings({
  savings,
  group,
  onGroup,
}: {
  savings: UseQueryResult<SavingsView>;
  group: Named | null;
  onGroup: (group: Named | null) => void;
}) {
  return (
    <section aria-labelledby="savings" className="mt-4">
      <h2 id="savings">What shortcuts would save</h2>
      <div className="mt-2 flex gap-3 items-center">
        <span>Group</span>
        <Pick kind="group" label="Group" placeholder="Everybody" value={group} onPick={onGroup} />
      </div>
      {savings.isError && <Failed what="The savings" error={savings.error} onRetry={() => void savings.refetch()} />}
      {savings.isPending && <Loading what="the savings" />}
      {savings.data && (
        <table className="w-full mt-2 border-collapse">
          <thead>
            <tr className="head">
              <th className="text-left font-normal pb-1">Shortcut</th>
              <th className="text-right font-normal">People</th>
              <th className="text-right font-normal">Saves each</th>
              <th className="text-right font-normal">Hours a year</th>
            </tr>
          </thead>
          <tbody>
            {savings.data.savings.map((each) => (
              <tr key={each.id} className="border-b border-rule h-[26px]">
                <td className="font-semibold">{each.name}</td>
                <td className="text-right">{each.people}</td>
                <td className="text-right">
                  {each.people ? fixed(each.savedS, 1) : '–'} {each.people ? <span className="text-ink-3">s</span> : ''}
                </td>
                <td className="text-right font-semibold">{each.people ? Math.round(each.hoursAYear) : '–'}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <p className="text-ink-3 mt-1.5">Each by itself, on top of what is in use. People counted once, on their first crossing.</p>
    </section>
  );
}
