import type { Change, DraftAtPlace, Setting } from '@underpass/contracts';
import { definitionOf } from '@underpass/core';
import { moment } from '../ui/times.js';
import { valueText } from './valueWords.js';

const words = ({ key, value, locked, condition }: Setting): string =>
  `${valueText(key, value)}${locked ? ', locked' : ''}${condition ? ', under a condition' : ''}`;

/** What stands at the place a draft is applied at alone, and would be replaced: nobody's words go unseen. */
export function AtPlace({ at, name, of }: { at: DraftAtPlace; name: string; of: Change }) {
  const { steps, replaced, left, locked } = at;
  const isNothing = left === of.patches.length + of.hypotheses.length;
  return (
    <section aria-label={`What stands at ${name}`} className="mt-2 max-w-[72ch]">
      {replaced.length > 0 && (
        <ul className="border-l-[5.5px] border-amber pl-3">
          {replaced.map(({ entry, becomes, written }) => (
            <li key={entry.id}>
              <b className="font-semibold">{definitionOf(entry.key)?.label ?? entry.key}</b> is {words(entry)} there now
              {written && (
                <span className="text-ink-2">
                  {' '}
                  (by {written.by}, {moment(written.at)})
                </span>
              )}
              , and becomes {words(becomes)}.
            </li>
          ))}
        </ul>
      )}
      {locked.map(({ entry, where, all }) => (
        <p key={entry.id} className="border-l-[5.5px] border-amber pl-3">
          <b className="font-semibold">{definitionOf(entry.key)?.label ?? entry.key}</b> is locked farther out ({where}:{' '}
          {valueText(entry.key, entry.value)}): what is written at {name} does nothing{' '}
          {all ? 'there' : `for those it is locked for${entry.condition ? ', while its condition holds' : ''}`}.
        </p>
      ))}
      {steps === 0 && (
        <p className="text-ink-2">{isNothing ? `Nothing of this draft goes to ${name}.` : `It stands so at ${name} already.`}</p>
      )}
      {steps > 0 && left > 0 && <p className="text-ink-2">{left === 1 ? 'One step is' : `${left} steps are`} left out there.</p>}
    </section>
  );
}
