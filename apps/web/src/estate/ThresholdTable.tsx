import { Wide } from '../ui/Wide.js';
import type { WorkKind } from '@underpass/contracts';
import { lossAtMost, shippedThresholds, workWords } from '@underpass/core';
import { FigureField } from './FigureField.js';
import type { AssumedForm, ThresholdKey } from './useAssumed.js';

const columns: readonly [ThresholdKey, string][] = [
  ['keyToPixelMs', 'Key to pixel, at most ms'],
  ['framesAtLeast', 'Frames a second, at least'],
  ['voiceMosAtLeast', 'Voice, at least, of 5'],
  ['usableWithinS', 'Usable within s'],
  ['lossAtMostPercent', 'Loss at most %'],
];

/** What each kind of work wants; common practice, no source, but for voice. */
export function ThresholdTable({ form, canEdit }: { form: AssumedForm; canEdit: boolean }) {
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
          {(Object.keys(shippedThresholds) as WorkKind[]).map((work) => {
            const now = form.thresholds[work] ?? shippedThresholds[work];
            return (
              <tr key={work} className="border-b border-rule align-baseline">
                <th scope="row" className={`text-left py-1 pr-4 ${form.thresholds[work] ? 'font-bold' : 'font-normal'}`}>
                  {workWords[work]}
                </th>
                {columns.map(([field, words]) => {
                  const key = `${work}.${field}`;
                  const shown = field === 'lossAtMostPercent' ? lossAtMost(now) : now[field];
                  return (
                    <td key={field} className="py-0.5">
                      <FigureField
                        label={`${workWords[work]}: ${words}`}
                        unit=""
                        text={form.texts[key] ?? String(shown ?? '')}
                        fault={form.faults[key]}
                        readOnly={!canEdit}
                        onType={(next) => form.type(key, next)}
                      />
                    </td>
                  );
                })}
              </tr>
            );
          })}
        </tbody>
      </table>
      <p className="text-ink-3 mt-1">
        Common practice, no source; voice: R 80 “satisfied” and R 70 “some dissatisfied” of ITU-T G.109. Empty: not asked for.
      </p>
    </Wide>
  );
}
