import { useQuery } from '@tanstack/react-query';
import type { Change } from '@underpass/contracts';
import { noChange } from '@underpass/core';
import { lazy, Suspense, useCallback, useEffect, useMemo, useState } from 'react';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import { isGone } from '../api/client.js';
import { useDrafts } from '../api/drafts.js';
import { useCanEdit } from '../api/session.js';
import { SectionDrawing } from '../drawing/SectionDrawing.js';
import { SectionTable } from '../drawing/SectionTable.js';
import { useKeys } from '../shell/keys.js';
import { useNotice } from '../ui/Notice.js';
import { Failed, Loading } from '../ui/States.js';
import { Verdict } from '../ui/Verdict.js';
import { useTitle } from '../shell/useTitle.js';
import type { CrossingAnswer } from './crossingAnswer.js';
import { BayPanel } from './BayPanel.js';
import { changeIn } from './changeLink.js';
import { FieldCheckDialog } from './FieldCheckDialog.js';
import { FindingsList } from './FindingsList.js';
import { OpenPanel } from './OpenPanel.js';
import { Questions } from './Questions.js';
import { SignonPanel } from './SignonPanel.js';
import { TryPanel } from './TryPanel.js';
import { useEvaluation } from './useEvaluation.js';
import { crossingQueries } from './queries.js';

const HistoryChart = lazy(async () => ({ default: (await import('./HistoryChart.js')).HistoryChart }));

/** One crossing: the sentence, the drawing, the findings, and a change tried on paper. */
export function CrossingPage() {
  const { id = '' } = useParams();
  const answer = useQuery(crossingQueries.one(id));
  if (answer.isPending)
    return (
      <div className="px-6">
        <Loading what="the crossing" />
      </div>
    );
  if (!answer.data || isGone(answer))
    return (
      <div className="px-6">
        <Failed what="This crossing" error={answer.error as Error} onRetry={() => void answer.refetch()} />
      </div>
    );
  return <Crossing key={id} answer={answer.data} />;
}

function Crossing({ answer }: { answer: CrossingAnswer }) {
  const { between, view: now, why } = answer;
  const [search, setSearch] = useSearchParams();
  const [change, setChange] = useState<Change>(noChange);
  const [remedy, setRemedy] = useState<string | null>(null);
  const [bay, setBay] = useState<number | null>(null);
  const [asTable, setAsTable] = useState(false);
  const [check, setCheck] = useState(false);
  const navigate = useNavigate();
  const canEdit = useCanEdit();
  const notice = useNotice();
  const { view: tried, fault: untried } = useEvaluation(answer.id, answer.version, change);
  const view = tried ?? now;
  const asked = now.questions.find(({ key }) => key === search.get('q'))?.key;
  const worst = now.questions.find((question) => question.verdict === now.verdict && question.verdict !== 'clear');
  const question = asked ?? worst?.key ?? 'feel';
  useTitle(`${between.person.name}, ${between.resource.name}`);
  useEffect(() => {
    // a change that came along: of a link somebody sent, or of a finding on the Board
    const sent = search.get('change');
    if (!sent) return;
    const named = search.get('named');
    changeIn(sent).then(
      (found) => {
        if (!found) return notice({ text: 'This link holds no change that this version knows. The crossing is shown as it is.' });
        setChange(found);
        setRemedy(named);
      },
      (error: Error) => notice({ text: `The change in this link could not be read: ${error.message}` }),
    );
    setSearch(
      (old) => {
        const next = new URLSearchParams(old);
        next.delete('change');
        next.delete('named');
        return next;
      },
      { replace: true },
    );
  }, [search, setSearch, notice]);
  const draft = search.get('draft');
  const drafts = useDrafts(draft !== null);
  const kept = drafts.data?.find((row) => row.id === draft);
  useEffect(() => {
    if (!kept) return;
    setChange(kept.change);
    setRemedy(kept.name);
  }, [kept]);
  const tryChange = useCallback((next: Change, text: string | null) => {
    setChange(next);
    setRemedy(text);
  }, []);
  const keys = useMemo(() => {
    const focus = (selector: string) => () => document.querySelector<HTMLElement>(selector)?.focus();
    return {
      ...Object.fromEntries(
        [1, 2, 3, 4, 5, 6, 7].map((n) => [
          String(n),
          () => {
            setBay(n - 1);
            document.querySelector<HTMLElement>(`[data-bay="${n}"]`)?.focus();
          },
        ]),
      ),
      f: focus('[data-finding]'),
      y: focus('#try-a-change button'),
      d: () => document.querySelector<HTMLElement>('[data-draft]')?.click(),
      i: () => document.querySelector<HTMLElement>('[data-impact]')?.click(),
      t: () => setAsTable((on) => !on),
      Escape: () => (bay === null ? void navigate(-1) : setBay(null)),
    };
  }, [bay, navigate]);
  useKeys(keys);
  const section = view.sections[question];
  const before = tried ? now.sections[question] : null;
  return (
    <div className="px-6">
      <div className="pt-[13px] pb-3 border-b border-rule flex gap-4 items-start">
        <div className="flex-1 min-w-0">
          <h1 className="text-[18px] leading-6 [&_a]:border-b [&_a]:border-dotted [&_a]:border-ink-3">
            <Link to={`/crossings?person=${encodeURIComponent(between.person.id)}`}>{between.person.name}</Link>{' '}
            <span className="font-normal text-ink-3">on</span>{' '}
            <Link to={`/estate/endpoint/${encodeURIComponent(between.endpoint.id)}`} className="mono">
              {between.endpoint.name}
            </Link>{' '}
            <span className="font-normal text-ink-3">at</span>{' '}
            <Link to={`/estate/location/${encodeURIComponent(between.location.id)}`}>{between.location.name}</Link>{' '}
            <span className="font-normal text-ink-3">through to</span>{' '}
            <Link to={`/estate/resource/${encodeURIComponent(between.resource.id)}`}>{between.resource.name}</Link>
          </h1>
          <p className="text-[15px] leading-5 mt-1">
            <Verdict verdict={now.verdict} className="mr-2" />
            {now.sentence}
          </p>
        </div>
        <span className="text-ink-3 pt-2 whitespace-nowrap">
          evaluated {new Date(answer.at).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })}
        </span>
        {canEdit && (
          <button className="btn no-print" onClick={() => setCheck(true)}>
            Send a field check
          </button>
        )}
      </div>
      <Questions
        questions={view.questions}
        chosen={question}
        onChoose={(next) =>
          setSearch(
            (old) => {
              const params = new URLSearchParams(old);
              params.set('q', next);
              return params;
            },
            { replace: true },
          )
        }
      />
      <section aria-label="The way" className="pt-3 border-b-[1.5px] border-ink pb-1">
        {!asTable && <SectionDrawing section={section} before={before} bay={bay} onBay={setBay} showSteps={question === 'open'} />}
        <SectionTable section={section} visible={asTable} />
        {bay !== null && <BayPanel view={view} section={section} bay={bay} onClose={() => setBay(null)} />}
      </section>
      {question === 'usable' && <SignonPanel view={view} before={tried ? now : null} limitS={section.limitSignonS} />}
      {question === 'open' && <OpenPanel id={answer.id} between={between} view={view} change={change} />}
      <div className="grid grid-cols-1 min-[1000px]:grid-cols-2 gap-x-12 relative">
        <FindingsList findings={now.findings} trying={remedy} onTry={tryChange} />
        <TryPanel
          conflicts={kept?.conflicts ?? []}
          answer={answer}
          now={now}
          tried={tried}
          untried={untried}
          change={change}
          remedy={remedy}
          onChange={tryChange}
          why={why}
        />
        <span aria-hidden className="hidden min-[1000px]:block absolute left-1/2 top-3 bottom-0 border-l border-rule" />
      </div>
      <Suspense fallback={<Loading what="the history" />}>
        <HistoryChart id={answer.id} version={answer.version} />
      </Suspense>
      {check && <FieldCheckDialog between={between} onClose={() => setCheck(false)} />}
    </div>
  );
}
