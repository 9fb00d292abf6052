import type { Bay } from '@underpass/contracts';
import type { Board } from '@underpass/core';
import { Link } from 'react-router';
import { query } from '../api/client.js';
import { CountRow, PeopleBar, type Counts } from '../ui/PeopleBar.js';
import { VerdictShape } from '../ui/Verdict.js';
import { notClear, noteOf, totalOf } from './boardRows.js';

/** Places × resources, worst first; every cell leads to the crossings behind it. */
export function BoardMatrix({
  board,
  bay,
  area,
  onArea,
}: {
  board: Board;
  bay: Bay | null;
  area: string | null;
  onArea: (area: string) => void;
}) {
  const shown = board.resources;
  const rows = area ? board.rows.filter((row) => row.area === area) : board.rows;
  const largest = Math.max(1, ...rows.flatMap((row) => Object.values(row.cells).map(totalOf)));
  const perPerson = 80 / largest;
  const bad = rows.filter((row) => notClear(row.people) > 0);
  const good = rows.filter((row) => notClear(row.people) === 0);
  return (
    <div className="overflow-x-auto mt-3">
      <table className="w-full border-collapse table-fixed min-w-[760px]">
        <thead>
          <tr className="align-bottom text-ink-2 border-b-[1.5px] border-ink">
            <th className="text-left font-normal pb-1.5 w-[164px]">Location, worst first</th>
            {shown.map(({ id, name }) => (
              <th key={id} className="text-left font-normal pb-1.5 px-2 leading-[15px]">
                <Link className="hover:underline" to={`/crossings${query({ resource: id, bay })}`}>
                  {name}
                </Link>
              </th>
            ))}
            {board.others > 0 && <th className="text-left font-normal pb-1.5 px-2 leading-[15px]">{board.others} more</th>}
            <th className="text-right font-normal pb-1.5 w-[54px] leading-[15px]">not Clear</th>
          </tr>
        </thead>
        <tbody>
          {bad.map((row) => (
            <tr key={row.area} className="border-b border-rule hover:bg-earth">
              <th scope="row" className="text-left align-top pt-2 h-[50px] leading-[17px] text-[14px] font-bold pr-2">
                <button
                  data-row
                  className="text-left font-bold hover:underline"
                  aria-pressed={area === row.area}
                  onClick={() => onArea(row.area)}
                >
                  {row.area}
                </button>
                <span className="block font-normal text-[12.5px] text-ink-3 whitespace-nowrap overflow-hidden text-ellipsis">
                  {noteOf(row)}
                </span>
              </th>
              {shown.map(({ id }) => (
                <Cell
                  key={id}
                  counts={row.cells[id]}
                  to={`/crossings${query({ area: row.area, resource: id, bay })}`}
                  perPerson={perPerson}
                />
              ))}
              {board.others > 0 && <Cell counts={row.rest} to={`/crossings${query({ area: row.area, bay })}`} perPerson={perPerson} />}
              <td className="text-right align-top pt-[9px] border-l border-rule">
                <b className="block text-[15px] leading-[17px]">{notClear(row.people)}</b>
                <span className="text-[12.5px] text-ink-3">of {totalOf(row.people)}</span>
              </td>
            </tr>
          ))}
          {good.length > 0 && (
            <tr>
              <td colSpan={shown.length + 3} className="border-t-[1.5px] border-ink text-tile font-semibold h-[30px]">
                <VerdictShape verdict="clear" /> Everyone Clear
              </td>
            </tr>
          )}
          {good.map((row) => (
            <tr key={row.area} className="border-b border-rule h-[25px] hover:bg-earth">
              <th scope="row" className="text-left font-medium whitespace-nowrap overflow-hidden text-ellipsis">
                <button data-row className="hover:underline" onClick={() => onArea(row.area)}>
                  {row.area}
                </button>
              </th>
              {shown.map(({ id }) => (
                <Cell
                  key={id}
                  counts={row.cells[id]}
                  to={`/crossings${query({ area: row.area, resource: id })}`}
                  perPerson={perPerson}
                  flat
                />
              ))}
              {board.others > 0 && <Cell counts={row.rest} to={`/crossings${query({ area: row.area })}`} perPerson={perPerson} flat />}
              <td className="text-right text-ink-3 border-l border-rule">of {totalOf(row.people)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function Cell({
  counts,
  to,
  perPerson,
  flat = false,
}: {
  counts: Counts | null | undefined;
  to: string;
  perPerson: number;
  flat?: boolean;
}) {
  return (
    <td className="border-l border-rule p-0 align-top">
      {counts && (
        <Link
          to={to}
          className={
            flat
              ? 'flex items-center gap-1.5 pl-2 h-[24px] text-ink-3 hover:underline'
              : 'block pl-2 pt-2 pb-1 min-h-[49px] hover:underline'
          }
        >
          <PeopleBar counts={counts} perPerson={perPerson} height={flat ? 9 : 13} />
          <span className={flat ? '' : 'block mt-[5px]'}>
            <CountRow counts={counts} />
          </span>
        </Link>
      )}
    </td>
  );
}
