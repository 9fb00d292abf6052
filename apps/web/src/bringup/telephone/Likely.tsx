import { remainingCauses, telephoneQuestions, type TelephoneAnswers, type TelephoneBefore } from '@underpass/core';
import { useState } from 'react';
import { causeWords } from '../words.js';

/** So many are shown at first. */
const shownFirst = 6;
const percent = (share: number): string => (share > 0 && share < 0.005 ? 'below 1' : String(Math.round(share * 100)));

/** How likely each cause is now; together with what is on no list they make 100. What was ruled out stays, with the question that did it. */
export function Likely({ before, answers }: { before: TelephoneBefore; answers: TelephoneAnswers }) {
  const [all, setAll] = useState(false);
  const { causes, notListed } = remainingCauses(before, answers);
  const left = causes.filter(({ probability }) => probability > 0);
  const shown = all ? causes : left.slice(0, shownFirst);
  const rest = left.slice(shownFirst).reduce((sum, { probability }) => sum + probability, 0);
  const askOf = (id: string) => telephoneQuestions.find((question) => question.id === id)?.ask ?? '';
  return (
    <section aria-labelledby="likely">
      <h2 id="likely" className="border-b-[1.5px] border-ink pb-1.5">
        {left.length} of {causes.length} causes are left
      </h2>
      <ul>
        {shown.map(({ code, probability, ruledOutBy }) => (
          <Bar key={code} name={causeWords(code)} share={probability} note={ruledOutBy ? `ruled out: ${askOf(ruledOutBy)}` : ''} />
        ))}
        {!all && rest > 0 && <Bar name={`${left.length - shownFirst} others`} share={rest} />}
        <Bar name="something not on this list" share={notListed} />
      </ul>
      <button className="link min-h-[24px] mt-1" onClick={() => setAll(!all)}>
        {all ? 'Show the likeliest' : 'Show all, with what ruled them out'}
      </button>
    </section>
  );
}

function Bar({ name, share, note = '' }: { name: string; share: number; note?: string }) {
  return (
    <li className="border-b border-rule py-1">
      <span className="flex justify-between gap-3">
        <span className={share === 0 ? 'text-ink-3' : ''}>
          <span className="first-letter:uppercase inline-block">{name}</span>
          {note && <span className="block text-[12px] leading-[16px]">{note}</span>}
        </span>
        <span className={`whitespace-nowrap ${share === 0 ? 'text-ink-3' : ''}`}>{percent(share)} %</span>
      </span>
      {share > 0 && (
        <span aria-hidden="true" className="moves block h-[5.5px] bg-bore mt-0.5" style={{ width: `${Math.max(1, share * 100)}%` }} />
      )}
    </li>
  );
}
