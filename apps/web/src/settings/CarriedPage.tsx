import { useQuery } from '@tanstack/react-query';
import type { CarriedAnswer } from '@underpass/contracts';
import { definitionOf } from '@underpass/core';
import { Link } from 'react-router';
import { useTitle } from '../shell/useTitle.js';
import { WaysIn } from '../intake/WaysIn.js';
import { Failed, Loading } from '../ui/States.js';
import { Wide } from '../ui/Wide.js';
import { settingsQueries } from './queries.js';

type Column = CarriedAnswer[number];
type Cell = Column['cells'][number];
const kindWords = { staff: 'Staff', seasonal: 'Summer staff', guest: 'Guests' } as const;

/** What people can and cannot carry in and out, by kind of person and whose device it is, with the setting that decides each. */
export function CarriedPage() {
  useTitle('In and out');
  const { data, isPending, isError, error, refetch } = useQuery(settingsQueries.carried());
  if (isPending) return <Loading what="every crossing to be looked at" />;
  if (isError) return <Failed page what="What people carry" error={error} onRetry={() => void refetch()} />;
  const [first] = data;
  if (!first) return <WaysIn>There is nobody to look at yet: settings are in force for a person on an endpoint.</WaysIn>;
  const leaks = data.reduce((sum, { cells }) => sum + cells.filter(({ isData, goes }) => isData && goes > 0).length, 0);
  const all = data.reduce((sum, { cells }) => sum + cells.filter(({ isData }) => isData).length, 0);
  return (
    <div>
      <h1>
        Data can leave in {leaks} of {all} ways
      </h1>
      <p className="text-ink-2 max-w-[76ch]">
        Each cell says what holds for a sort of people on a sort of device, and the setting that decides it. Where some may and some may
        not, both are counted in crossings.
      </p>
      {[true, false].map((isData) => (
        <section key={String(isData)} className="mt-5" aria-label={isData ? 'What leaves' : 'What comes in'}>
          <h2>{isData ? 'What leaves' : 'What comes in, and what is heard'}</h2>
          <Wide label={isData ? 'What leaves' : 'What comes in'}>
            <table className="mt-1 min-w-full">
              <thead className="head">
                <tr>
                  <th scope="col" className="pr-4">
                    What
                  </th>
                  {data.map((column) => (
                    <th key={`${column.kind}${column.ownership}`} scope="col" className="pr-4 min-w-[150px]">
                      {kindWords[column.kind]}, {column.ownership} device
                      <span className="block text-[12px]">{column.crossings} crossings</span>
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {first.cells.map((row, i) =>
                  row.isData !== isData ? null : (
                    <tr key={`${row.what}${row.way}`} className="border-b border-rule align-top">
                      <th scope="row" className="text-left font-semibold py-1.5 pr-4 whitespace-nowrap">
                        {row.what}
                        {!isData && row.way === 'in' && first.cells.some((other) => other.what === row.what && other.way === 'out') && (
                          <span className="font-normal text-ink-3"> in</span>
                        )}
                      </th>
                      {data.map((column) => (
                        <CarriedCell key={`${column.kind}${column.ownership}`} cell={column.cells[i] as Cell} />
                      ))}
                    </tr>
                  ),
                )}
              </tbody>
            </table>
          </Wide>
        </section>
      ))}
    </div>
  );
}

function CarriedCell({ cell }: { cell: Cell }) {
  const { goes, stays, isData, by } = cell;
  const word = isData ? (['leaves', 'does not leave'] as const) : (['yes', 'no'] as const);
  const said = stays === 0 ? word[0] : goes === 0 ? word[1] : `${word[0]} for ${goes}, ${isData ? 'not' : 'no'} for ${stays}`;
  return (
    <td className="py-1.5 pr-4">
      <span className={goes > 0 && isData ? 'font-bold' : stays > 0 && goes === 0 ? 'text-ink-2' : ''}>{said}</span>
      <Link className="block text-[12.5px] leading-4 text-ink-3 hover:underline" to={`/settings?key=${encodeURIComponent(by)}`}>
        {definitionOf(by)?.label ?? by}
      </Link>
    </td>
  );
}
