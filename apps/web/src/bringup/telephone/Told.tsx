import { causeTold, type TelephoneState } from '@underpass/core';
import { causeWords } from '../words.js';

const big = 'text-[30px] leading-[37px] min-[700px]:text-[38px] min-[700px]:leading-[46px] font-[750] max-w-[24ch]';

/** What it is, and what mends it; or that it is nothing of the list. */
export function Told({ state, words }: { state: Exclude<TelephoneState, { is: 'asking' }>; words: Readonly<Record<string, string>> }) {
  if (state.is === 'nothing listed')
    return (
      <section aria-live="polite">
        <h1 className={big}>It is nothing of this list</h1>
        <p className="mt-3 max-w-[60ch]">
          No known cause fits these answers. Take the last answer back if it was a guess; else ask whether it has power, and have the device
          sent in with what was answered.
        </p>
      </section>
    );
  if (state.is === 'several')
    return (
      <section aria-live="polite">
        <h1 className={big}>{state.codes.length} causes are left</h1>
        <p className="mt-3">No question tells them apart. Try in this order:</p>
        <ol className="mt-2">
          {state.codes.slice(0, 6).map((code) => (
            <li key={code} className="border-t border-rule py-1.5">
              <strong className="first-letter:uppercase inline-block">{causeWords(code)}</strong>: {causeTold(code, words).mend}
            </li>
          ))}
        </ol>
      </section>
    );
  const { says, mend } = causeTold(state.code, words);
  return (
    <section aria-live="polite">
      <h1 className={big}>{mend}</h1>
      <p className="mt-3 max-w-[60ch] text-[15px] leading-[20px]">{says}</p>
      <p className="mt-2 text-ink-3">Every other cause of the list is ruled out by what was answered.</p>
    </section>
  );
}
