import { fixed } from '../../ui/figures.js';
import type { Duct } from './ductGeometry.js';
import { figureText } from './words.js';

/** The same as the drawing, as a table: with rule, reason and cost. */
export function DuctTable({ ducts }: { ducts: readonly Duct[] }) {
  return (
    <table className="w-full mt-3" aria-label="Functions, as they are carried">
      <thead className="head">
        <tr>
          <th scope="col">Function</th>
          <th scope="col">Carried as</th>
          <th scope="col">Rule</th>
          <th scope="col" className="text-right">
            Mbit/s
          </th>
          <th scope="col" className="text-right pl-4">
            adds
          </th>
        </tr>
      </thead>
      <tbody>
        {ducts.map((duct) => (
          <tr key={duct.name} className="border-b border-rule align-top">
            <th scope="row" className="text-left font-semibold py-1 pr-3">
              {duct.name}
            </th>
            <td className="py-1 pr-3">
              {duct.claimedTwice ? 'claimed twice' : duct.carriedAs}
              <span className="block text-[12.5px] text-ink-3">{duct.why}</span>
            </td>
            <td className="py-1 pr-3">{duct.rule}</td>
            <td className="py-1 text-right">{figureText(duct.mbps)}</td>
            <td className="py-1 pl-4 text-right whitespace-nowrap">
              {duct.exchanges === 0
                ? '–'
                : duct.addedMs === null
                  ? 'not known'
                  : duct.addedMs >= 1000
                    ? `${fixed(duct.addedMs / 1000, 1)} s`
                    : `${fixed(duct.addedMs, 0)} ms`}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
