import type { Section } from '@underpass/core';
import { verdictWords } from '../ui/Verdict.js';
import { fixed } from '../ui/figures.js';

/** The section as a real table: for screen readers always, for everybody with the key t. */
export function SectionTable({ section, visible }: { section: Section; visible: boolean }) {
  return (
    // a table itself would keep its width
    <div className={visible ? '' : 'sr-only print:not-sr-only'}>
      <table className="w-full border-collapse my-3">
        <caption className={visible ? 'text-left text-ink-3 pb-1' : ''}>The way, bay by bay</caption>
        <thead>
          <tr className="head">
            {['Bay', 'Verdict', 'Headroom', 'Short by', 'Delay, ms', 'Sign-on, s', 'Facts with source'].map((name, i) => (
              <th key={name} scope="col" className={`font-normal py-1 pr-4 ${i === 4 || i === 5 ? 'text-right' : 'text-left'}`}>
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {section.bays.map((bay, i) => (
            <tr key={bay.bay} className="border-b border-rule align-top">
              <th scope="row" className="text-left py-1 pr-4 whitespace-nowrap">
                {i + 1} {bay.bay}
              </th>
              <td className="pr-4">{bay.verdict ? verdictWords[bay.verdict] : bay.state === 'not reached' ? 'not reached' : 'Clear'}</td>
              <td className="pr-4 whitespace-nowrap">
                {bay.label} {bay.state === 'fits' ? bay.detail : ''}
              </td>
              <td className="pr-4 whitespace-nowrap">{bay.state === 'short' ? bay.detail.replace('short ', '') : '–'}</td>
              <td className="text-right pr-4">{bay.state === 'not reached' ? 'not reached' : fixed(bay.delayMs, 0)}</td>
              <td className="text-right pr-4">{bay.state === 'not reached' ? 'not reached' : fixed(bay.signonS, 1)}</td>
              <td>{bay.facts.map((fact) => `${fact.text} (${fact.source})`).join('; ')}</td>
            </tr>
          ))}
          <tr>
            <th scope="row" className="text-left py-1">
              Total
            </th>
            <td colSpan={3} />
            <td className="text-right pr-4 font-bold">
              {fixed(section.totalDelayMs, 0)}, limit {section.limitDelayMs}
            </td>
            <td className="text-right pr-4 font-bold">
              {fixed(section.totalSignonS, 1)}, limit {section.limitSignonS}
            </td>
            <td />
          </tr>
        </tbody>
      </table>
    </div>
  );
}
