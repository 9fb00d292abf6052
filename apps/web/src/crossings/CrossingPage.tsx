import { useQuery } from '@tanstack/react-query';
import { lazy, Suspense, useCallback, useState } from 'react';
import { useParams } from 'react-router';
import { isEmpty } from '@underpass/core';
import { isGone } from '../api/client.js';
import { SectionDown } from '../drawing/SectionDown.js';
import { SectionDrawing } from '../drawing/SectionDrawing.js';
import { SectionTable } from '../drawing/SectionTable.js';
import { Failed, Loading } from '../ui/States.js';
import { useOffers } from '../shell/actions.js';
import { useTitle } from '../shell/useTitle.js';
import { useNarrow, useUnder } from '../ui/useUnder.js';
import type { CrossingAnswer, QuestionKey } from './crossingAnswer.js';
import { BayPanel } from './BayPanel.js';
import { CrossingHead } from './CrossingHead.js';
import { FieldCheckDialog } from './FieldCheckDialog.js';
import { FindingsList } from './FindingsList.js';
import { HandBar } from './HandBar.js';
import { Ladder, Readiness } from './OpenPanel.js';
import { Questions } from './Questions.js';
import { SignonPanel } from './SignonPanel.js';
import { TryPanel } from './TryPanel.js';
import { useArriving } from './useArriving.js';
import { useCrossingKeys } from './useCrossingKeys.js';
import { useEvaluation } from './useEvaluation.js';
import { crossingQueries } from './queries.js';
import { useCopyText } from './useCopyText.js';
import { useAddress } from '../ui/useAddress.js';

const DayPanel = lazy(async () => ({ default: (await import('./DayPanel.js')).DayPanel }));
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
        <Failed page what="This crossing" error={answer.error as Error} onRetry={() => void answer.refetch()} />
      </div>
    );
  return <Crossing key={id} answer={answer.data} />;
}

function Crossing({ answer }: { answer: CrossingAnswer }) {
  const { between, view: now, why } = answer;
  const { search, set } = useAddress();
  const { change, name, conflicts, tryChange } = useArriving();
  const [bay, setBay] = useState<number | null>(null);
  const [asTable, setAsTable] = useState(false);
  const [check, setCheck] = useState(false);
  // where seven bays do not stand side by side, the way runs down the page
  const down = useUnder(1100);
  const hand = useNarrow();
  const toggleTable = useCallback(() => setAsTable((on) => !on), []);
  useCrossingKeys(bay, setBay, toggleTable);
  const copyText = useCopyText();
  const { view: tried, fault: untried } = useEvaluation(answer.id, answer.version, change);
  const view = tried ?? now;
  const asked = now.questions.find(({ key }) => key === search.get('q'))?.key;
  const worst = now.questions.find((question) => question.verdict === now.verdict && question.verdict !== 'clear');
  const question = asked ?? worst?.key ?? 'feel';
  const choose = (next: QuestionKey) => set({ q: next });
  useTitle(`${between.person.name}, ${between.resource.name}`);
  const remedies = now.findings.flatMap(({ remedies: all }) => all).filter(({ change: each }) => !isEmpty(each));
  useOffers([
    ...remedies.slice(0, 8).map(({ text, change: each }) => ({ name: `Try: ${text}`, run: () => tryChange(each, text) })),
    { name: asTable ? 'Drawing in place of the table' : 'Table in place of the drawing', run: toggleTable },
    { name: 'Copy this crossing as text', run: () => copyText(answer, view, name) },
    { name: 'Print this page', run: () => window.print() },
  ]);
  const section = view.sections[question];
  const before = tried ? now.sections[question] : null;
  const panel = bay !== null && <BayPanel view={view} section={section} bay={bay} onClose={() => setBay(null)} />;
  return (
    <div className="px-6 max-[719px]:px-4 max-[719px]:pb-28">
      <CrossingHead answer={answer} onCheck={() => setCheck(true)} />
      <Questions questions={view.questions} chosen={question} onChoose={choose} />
      <section aria-label="The way" className="pt-3 border-b-[1.5px] border-ink pb-1">
        {!asTable && !down && <SectionDrawing section={section} before={before} bay={bay} onBay={setBay} showSteps={question === 'open'} />}
        {!asTable && down && (
          <SectionDown section={section} before={before} bay={bay} onBay={setBay} showSteps={question === 'open'}>
            {panel}
          </SectionDown>
        )}
        <SectionTable section={section} visible={asTable} />
        {(asTable || !down) && panel}
      </section>
      {question === 'usable' && <SignonPanel view={view} before={tried ? now : null} limitS={section.limitSignonS} />}
      <div className="grid grid-cols-1 min-[1000px]:grid-cols-2 gap-x-12 relative">
        <div className="min-w-0">
          <FindingsList findings={now.findings} together={now.together} chance={now.chance} trying={name} onTry={tryChange} />
          {question === 'open' && <Readiness id={answer.id} change={change} />}
        </div>
        <div className="min-w-0">
          {question === 'open' && <Ladder between={between} view={view} />}
          <TryPanel
            conflicts={conflicts}
            answer={answer}
            now={now}
            tried={tried}
            untried={untried}
            change={change}
            remedy={name}
            onChange={tryChange}
            why={why}
          />
        </div>
        <span aria-hidden className="hidden min-[1000px]:block absolute left-1/2 top-3 bottom-0 border-l border-rule" />
      </div>
      <Suspense fallback={<Loading what="the day" />}>
        <DayPanel day={view.day} location={between.location} shared={!between.location.ownLines} />
      </Suspense>
      <Suspense fallback={<Loading what="the history" />}>
        <HistoryChart id={answer.id} version={answer.version} zone={now.day.zone} />
      </Suspense>
      {hand && (
        <HandBar
          answer={answer}
          view={now}
          change={change}
          name={name}
          untried={untried}
          onCheck={() => setCheck(true)}
          onTry={tryChange}
        />
      )}
      {check && <FieldCheckDialog between={between} onClose={() => setCheck(false)} />}
    </div>
  );
}
