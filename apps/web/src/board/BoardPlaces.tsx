import type { Bay } from '@underpass/contracts';
import type { Board, LeadingFinding } from '@underpass/core';
import { Link } from 'react-router';
import { query } from '../api/client.js';
import { CountRow } from '../ui/PeopleBar.js';
import { VerdictShape } from '../ui/Verdict.js';
import { notClear, noteOf, totalOf } from './boardRows.js';

/** In the hand: the places, worst first, each with what leads there. */
export function BoardPlaces({ board, leading, bay }: { board: Board; leading: readonly LeadingFinding[]; bay: Bay | null }) {
  const bad = board.rows.filter(({ people }) => notClear(people) > 0);
  const good = board.rows.filter(({ people }) => notClear(people) === 0);
  return (
    <>
      <ol aria-label="Places, worst first" className="border-t-[1.5px] border-ink mt-3">
        {bad.map((row) => {
          const first = leading.find((finding) => finding.area === row.area && (!bay || finding.bay === bay));
          return (
            <li
              key={row.area}
              className="row relative border-b border-rule py-2.5 grid grid-cols-[minmax(0,1fr)_auto] gap-x-3 min-h-[56px]"
            >
              <Link data-row className="row-link font-bold text-[15px] leading-[19px]" to={`/crossings${query({ area: row.area, bay })}`}>
                {row.area}
              </Link>
              <span className="text-right whitespace-nowrap">
                <b>{notClear(row.people)}</b> <span className="text-ink-3">of {totalOf(row.people)} not Clear</span>
              </span>
              <span className="text-ink-2 col-span-2">{first ? first.text : noteOf(row)}</span>
              <span className="col-span-2 pt-1">
                <CountRow counts={row.people} all />
              </span>
            </li>
          );
        })}
      </ol>
      {good.length > 0 && (
        <p className="py-2.5 text-tile font-semibold">
          <VerdictShape verdict="clear" /> Everyone Clear:{' '}
          <span className="font-normal text-ink-2">{good.map(({ area }) => area).join(', ')}</span>
        </p>
      )}
    </>
  );
}
