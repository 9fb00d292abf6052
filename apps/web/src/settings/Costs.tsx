import { useQuery } from '@tanstack/react-query';
import type { SettingKey } from '@underpass/core';
import { fixed } from '../ui/figures.js';
import { Verdict } from '../ui/Verdict.js';
import { Wide } from '../ui/Wide.js';
import { Handed, isHandingOn } from './Handed.js';
import { settingsQueries } from './queries.js';
import { valueText } from './valueWords.js';

/** What each value of a setting comes to for somebody: rate, delay, frames, seconds, decoding, and what does not fit then. */
export function Costs({ settingKey, endpoint, person, who }: { settingKey: SettingKey; endpoint: string; person: string; who: string }) {
  const { data, isPlaceholderData } = useQuery(settingsQueries.costs(endpoint, person, settingKey));
  if (!data || isPlaceholderData) return null;
  const { costs } = data;
  const handed = isHandingOn(settingKey) && <Handed steps={data.handed} who={who} />;
  if (costs.length < 2) return handed || null;
  const decodes = costs.some(({ decoding }) => decoding !== null);
  return (
    <>
      {handed}
      <section aria-label="What each value costs" className="mt-4 border-t border-rule pt-3">
        <h2>
          What each value costs{' '}
          <small className="font-normal text-[13px] text-ink-3 ml-2">
            {who} in {data.resource}
          </small>
        </h2>
        <Wide label="What each value costs" className="mt-1">
          <table className="w-full">
            <thead className="head">
              <tr>
                <th scope="col">Value</th>
                {['down Mbit/s', 'up Mbit/s', 'delay ms', 'frames', 'usable s'].map((name) => (
                  <th key={name} scope="col" className="text-right pl-3">
                    {name}
                  </th>
                ))}
                {decodes && (
                  <th scope="col" className="text-right pl-3">
                    of decoding
                  </th>
                )}
                <th scope="col" className="pl-4">
                  verdict
                </th>
                <th scope="col" className="text-right pl-3">
                  checks
                </th>
              </tr>
            </thead>
            <tbody>
              {costs.map((each) => (
                <tr key={JSON.stringify(each.value)} className={`border-b border-rule ${each.isNow ? 'bg-tile-wash' : ''}`}>
                  <th scope="row" className={`text-left py-1 pr-2 ${each.isNow ? '' : 'font-normal'}`}>
                    {valueText(settingKey, each.value)}
                    {each.isNow && <span className="font-normal text-ink-2"> now</span>}
                  </th>
                  {[
                    fixed(each.downMbps, 1),
                    fixed(each.upMbps, 1),
                    fixed(each.delayMs, 0),
                    fixed(each.framesPerS, 0),
                    fixed(each.usableS, 0),
                  ].map((text, i) => (
                    <td key={i} className="text-right">
                      {text}
                    </td>
                  ))}
                  {decodes && <td className="text-right">{each.decoding === null ? 'not known' : `${fixed(each.decoding * 100, 0)} %`}</td>}
                  <td className="pl-4">
                    <Verdict verdict={each.verdict} />
                  </td>
                  <td className="text-right">{each.checks === 0 ? '–' : each.checks}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </Wide>
      </section>
    </>
  );
}
