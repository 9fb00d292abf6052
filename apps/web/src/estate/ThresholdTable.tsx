import type { Organisation, WorkKind } from '@underpass/contracts';
import { shippedThresholds, workWords } from '@underpass/core';
import { Wide } from '../ui/Wide.js';
import { thresholdWords, type ThresholdKey } from './assumed.js';
import { FigureField } from './FigureField.js';
import type { AssumedForm } from './useAssumed.js';

const columns = Object.entries(thresholdWords) as [ThresholdKey, string][];

/** What each kind of work wants; common practice, no source, but for voice. */
export function ThresholdTable({
  form,
  own,
}: {
  form: AssumedForm;
  /** What this estate wants by its own choice. */ own: Organisation['thresholds'] | undefined;
}) {
  return (
    <Wide label="Wanted, by kind of work">
      <table className="w-full border-collapse mt-1.5">
        <thead>
          <tr className="text-ink-3 border-b-[1.5px] border-ink align-bottom">
            <th scope="col" className="font-normal text-left py-1">
              Work
            </th>
            {columns.map(([key, words]) => (
              <th key={key} scope="col" className="font-normal text-left w-[128px] leading-[15px] pb-1">
                {words}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {(Object.keys(shippedThresholds) as WorkKind[]).map((work) => (
            <tr key={work} className="border-b border-rule align-top">
              <th scope="row" className={`text-left pt-[7px] pb-1 pr-4 ${own?.[work] ? 'font-bold' : 'font-normal'}`}>
                {workWords[work]}
              </th>
              {columns.map(([field, words]) => (
                <td key={field} className="py-0.5">
                  <FigureField name={`${work}.${field}`} label={`${workWords[work]}: ${words}`} unit="" form={form} />
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      <p className="text-ink-3 mt-1">
        Common practice, no source; voice: R 80 “satisfied” and R 70 “some dissatisfied” of ITU-T G.109. Empty: not asked for.
      </p>
    </Wide>
  );
}
