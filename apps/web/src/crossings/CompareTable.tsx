import type { CompareRow, CrossingView } from '@underpass/core';
import { Link } from 'react-router';
import { Gauge } from '../drawing/Gauge.js';
import { Arrow } from '../ui/Arrow.js';
import { Verdict } from '../ui/Verdict.js';
import { fixed } from '../ui/figures.js';

/** Before beside after: each figure with what is wanted of it. */
export function CompareTable({ now, tried }: { now: CrossingView; tried: CrossingView | null }) {
  return (
    <table id="how-it-is" className="w-full border-collapse mt-2">
      <thead>
        <tr className="head">
          <th scope="col" className="font-normal py-1">
            How it is
          </th>
          <th scope="col" className="font-normal text-right pr-3">
            <span className="inline-flex gap-1.5">
              <Verdict verdict={now.verdict} /> before
            </span>
          </th>
          <th scope="col" className="font-normal" colSpan={2}>
            {tried && (
              <span className="inline-flex gap-1.5">
                <Verdict verdict={tried.verdict} /> after
              </span>
            )}
          </th>
          <th scope="col" className="font-normal whitespace-nowrap max-[719px]:hidden">
            better
            <Arrow />
          </th>
          <th scope="col" className="font-normal text-right">
            <Link className="link" to="/estate/assumed#wanted">
              wanted
            </Link>
          </th>
        </tr>
      </thead>
      <tbody>
        {now.compare.map((row) => (
          <Row key={row.name} row={row} after={tried?.compare.find((other) => other.name === row.name)} />
        ))}
      </tbody>
    </table>
  );
}

function Row({ row, after }: { row: CompareRow; after: CompareRow | undefined }) {
  // where its interval decides, the interval is what is known
  const show = ({ value, low, high, verdict }: CompareRow) => {
    if (value === null || low === null || high === null) return 'not known';
    const [from, to] = [fixed(low, row.digits), fixed(high, row.digits)];
    return verdict === 'unknown' && from !== to ? `${from} to ${to}` : fixed(value, row.digits);
  };
  const wanted = after?.wanted ?? row.wanted;
  return (
    <tr className="border-b border-rule h-6">
      <th scope="row" className="text-left font-normal">
        {row.name}
      </th>
      <td className={`text-right pr-3 whitespace-nowrap ${row.verdict === 'limited' ? 'text-amber' : 'text-ink-2'}`}>{show(row)}</td>
      <td className={`text-right text-[14px] font-bold pr-1 whitespace-nowrap ${after?.verdict === 'limited' ? 'text-amber' : ''}`}>
        {after ? show(after) : ''}
      </td>
      <td className="text-ink-3 text-[12.5px] min-[560px]:whitespace-nowrap pr-2">{row.unit}</td>
      <td className="max-[719px]:hidden">
        <Gauge before={row.value} after={after?.value ?? null} wanted={wanted} better={row.better} />
      </td>
      <td className="text-right text-ink-2 min-[560px]:whitespace-nowrap">
        {wanted === null ? '–' : `${row.better === 'less' ? 'at most' : 'at least'} ${fixed(wanted, 1, 0)}`}
      </td>
    </tr>
  );
}
