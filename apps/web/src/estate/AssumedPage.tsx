import { useQuery } from '@tanstack/react-query';
import type { Applied, Organisation } from '@underpass/contracts';
import { assumedFigures, burdenTable, findingCost } from '@underpass/core';
import { useEffect, useState } from 'react';
import { useWatch } from 'react-hook-form';
import { Link, useLocation } from 'react-router';
import { ApiError, call } from '../api/client.js';
import { useCanEdit } from '../api/session.js';
import { ImpactDialog } from '../crossings/ImpactDialog.js';
import { useTitle } from '../shell/useTitle.js';
import { Failed, Loading } from '../ui/States.js';
import { useAction } from '../ui/useAction.js';
import { AssumedTable } from './AssumedTable.js';
import { LinesTable } from './LinesTable.js';
import { estateQueries } from './queries.js';
import { ThresholdTable } from './ThresholdTable.js';
import { figureWords, readAssumed, textOf, type AssumedTexts } from './assumed.js';
import { useAssumed } from './useAssumed.js';
import { useLeaving } from '../ui/useLeaving.js';

const subjects = [...new Set(assumedFigures.map(({ subject }) => subject))];
/** Those that every kind of line has. */
const ofLines = assumedFigures.filter(({ key }) => key.startsWith('line/') && key.split('/').length === 3);
const anchor = (subject: string) => subject.toLowerCase().replace(/[^a-z]+/g, '-');

/** What counts where nobody measured or typed anything, and what is wanted: every figure with its source, to be changed for this estate. */
export function AssumedPage() {
  const answer = useQuery(estateQueries.one('organisation', 'organisation'));
  useTitle('What is assumed');
  const none = answer.error instanceof ApiError && answer.error.status === 404;
  if (answer.isPending)
    return (
      <div className="px-6">
        <Loading what="what is assumed" />
      </div>
    );
  if (!answer.data && !none)
    return (
      <div className="px-6">
        <Failed page what="What is assumed" error={answer.error} onRetry={() => void answer.refetch()} />
      </div>
    );
  return <Assumed organisation={(answer.data?.object as Organisation | undefined) ?? null} />;
}

function Assumed({ organisation }: { organisation: Organisation | null }) {
  const canEdit = useCanEdit();
  const form = useAssumed(organisation);
  const tables = { control: form.control, type: form.type, canEdit };
  const leaving = useLeaving(form.isDirty, form.forget);
  const { hash } = useLocation();
  // whoever follows a link to a subject comes to it once the page stands
  useEffect(() => {
    // in braces: newer browsers answer with a promise, which is no clean-up
    void document.getElementById(hash.slice(1))?.scrollIntoView();
  }, [hash]);
  return (
    <div className="px-6 pt-[15px] pb-24">
      {leaving}
      <div className="flex items-baseline gap-4 flex-wrap">
        <h1>What is assumed</h1>
        <span className="text-ink-3 flex-1">counts where nobody measured or typed anything; each figure can be another here</span>
        <Link className="link" to="/estate">
          Estate
        </Link>
      </div>
      <div className="grid grid-cols-1 min-[900px]:grid-cols-[190px_minmax(0,1fr)] gap-x-12 mt-4">
        <nav
          aria-label="Subjects"
          className="border-t-[1.5px] border-ink flex min-[900px]:block overflow-x-auto self-start min-[900px]:sticky top-2"
        >
          {['Wanted', ...subjects, 'Order of findings'].map((subject) => (
            <a
              key={subject}
              href={`#${anchor(subject)}`}
              className="flex items-center h-[29px] border-b border-rule px-3.5 whitespace-nowrap hover:bg-earth"
            >
              {subject}
            </a>
          ))}
        </nav>
        <div className="min-w-0">
          <section aria-labelledby="wanted" className="border-t-[1.5px] border-ink pt-2.5">
            <h2 id="wanted">Wanted, by kind of work</h2>
            <Part>
              <ThresholdTable form={tables} own={organisation?.thresholds} />
            </Part>
          </section>
          {subjects.map((subject) => (
            <section key={subject} aria-labelledby={anchor(subject)} className="border-t-[1.5px] border-ink pt-2.5 mt-6">
              <h2 id={anchor(subject)}>{subject}</h2>
              <Part>
                {subject === 'Lines' && <LinesTable figures={ofLines} form={tables} />}
                <AssumedTable
                  figures={assumedFigures.filter((each) => each.subject === subject && !ofLines.includes(each))}
                  form={tables}
                />
              </Part>
            </section>
          ))}
          <section aria-labelledby="order-of-findings" className="border-t-[1.5px] border-ink pt-2.5 mt-6">
            <h2 id="order-of-findings">Order of findings</h2>
            <Weights />
          </section>
        </div>
      </div>
      {canEdit && form.isDirty && <Foot form={form} organisation={organisation} />}
    </div>
  );
}

/** A form for each subject: with every letter a browser looks through the whole form that it is typed into. */
const Part = ({ children }: { children: React.ReactNode }) => (
  <form autoComplete="off" onSubmit={(event) => event.preventDefault()}>
    {children}
  </form>
);

/** What is typed, tried on paper, and saved. */
function Foot({ form, organisation }: { form: ReturnType<typeof useAssumed>; organisation: Organisation | null }) {
  const texts = useWatch({ control: form.control });
  const { change, changed, faults } = readAssumed(organisation, texts as AssumedTexts, form.now);
  // what is typed as they have it is no matter any more
  const met = Object.keys(form.theirs).filter((key) => textOf(texts as AssumedTexts, key) !== textOf(form.now, key));
  const { busy, fault, run } = useAction();
  const [impact, setImpact] = useState(false);
  const figures = changed === 1 ? '1 figure' : `${changed} figures`;
  const summary = `${figures} by which crossings are judged`;
  const save = () =>
    run(async () => {
      const applied = await call<Applied>('changes', 'POST', { change, summary });
      form.saved();
      return { text: `Saved: ${summary}. Every crossing is worked out anew.`, applied, takenBack: `Taken back: ${summary}.` };
    });
  return (
    <div
      role="region"
      aria-label="What is typed"
      className="fixed bottom-0 inset-x-0 bg-paper border-t-[1.5px] border-ink px-6 py-2.5 flex gap-3 items-center flex-wrap z-10"
    >
      <span className="flex-1 min-w-0" role="status">
        {change
          ? `${figures} changed, not saved yet`
          : Object.keys(faults).length > 0
            ? 'Mend what is marked, then save.'
            : 'Typed anew, and the same as before.'}
        {met.length > 0 && (
          <span className="text-amber block">
            Somebody else wrote meanwhile:{' '}
            {met.map((key) => `${figureWords(key)} is ${textOf(form.now, key) || 'not asked for'} now`).join('; ')}. Yours stays, and
            replaces it when you save.
          </span>
        )}
        {fault && <span className="text-brick font-semibold block">{fault}</span>}
      </span>
      <button className="btn" onClick={form.forget} disabled={busy}>
        Leave as it was
      </button>
      <button className="btn" onClick={() => setImpact(true)} disabled={!change || busy}>
        See impact on the estate
      </button>
      <button className="btn btn-primary" onClick={() => void save()} disabled={!change || busy}>
        {changed ? `Save ${figures}` : 'Save'}
      </button>
      {impact && change && <ImpactDialog change={change} summary={summary} onClose={() => setImpact(false)} />}
    </div>
  );
}

const costs: readonly [string, number][] = [
  ['cannot sign in', findingCost.blocked],
  ['a screen or device that does not work', findingCost.device],
  ['a figure just short of what is wanted', findingCost.short(0)],
  ['a figure of which nothing is left', findingCost.short(1)],
  ['waiting, at most', findingCost.waiting(Infinity)],
  ['a risk', findingCost.risk],
  ['what is not known', findingCost.notKnown],
  ['what is not known and decides, on top', findingCost.unknownFirst],
];

/** How findings are put in order, and what makes one change better than another; each kind is multiplied by its weight above. */
function Weights() {
  return (
    <div className="grid grid-cols-1 min-[1100px]:grid-cols-2 gap-x-12 mt-1.5">
      <div>
        <p className="text-ink-2">
          Findings are told by what they cost the person; common practice, no source. The weights above multiply it.
        </p>
        <table className="w-full border-collapse mt-1.5">
          <tbody>
            {costs.map(([words, points]) => (
              <tr key={words} className="border-b border-rule">
                <th scope="row" className="font-normal text-left py-0.5">
                  {words}
                </th>
                <td className="text-right">{points}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <div>
        <p className="text-ink-2">A change helps where it takes away from these, the heaviest first.</p>
        <table className="w-full border-collapse mt-1.5">
          <tbody>
            {burdenTable.map(({ of, because }) => (
              <tr key={of} className="border-b border-rule align-top">
                <th scope="row" className="font-normal text-left py-0.5 pr-3 w-[190px]">
                  {of}
                </th>
                <td className="text-ink-2">{because}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </div>
  );
}
