import type { QuestionWords } from '@underpass/core';
import { VerdictShape, verdictWords } from '../ui/Verdict.js';
import type { QuestionKey } from './crossingAnswer.js';

/** The four questions; the chosen one has a piece of bore beneath. */
export function Questions({
  questions,
  chosen,
  onChoose,
}: {
  questions: QuestionWords[];
  chosen: QuestionKey;
  onChoose: (key: QuestionKey) => void;
}) {
  return (
    <div role="tablist" aria-label="Questions" className="grid grid-cols-2 min-[1000px]:grid-cols-4 gap-y-2">
      {questions.map((question, i) => (
        <button
          key={question.key}
          role="tab"
          aria-selected={chosen === question.key}
          onClick={() => onChoose(question.key)}
          onKeyDown={(event) => {
            const step = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0;
            const next = questions[(i + step + questions.length) % questions.length];
            if (!step || !next) return;
            event.preventDefault();
            onChoose(next.key);
            (
              event.currentTarget.parentElement?.children[(i + step + questions.length) % questions.length] as HTMLElement | undefined
            )?.focus();
          }}
          tabIndex={chosen === question.key ? 0 : -1}
          className={`text-left pt-1.5 pb-2.5 pr-3 relative ${i > 0 ? 'pl-3' : ''}`}
        >
          {i > 0 && <span aria-hidden className="absolute left-0 top-2 h-7 border-l border-rule" />}
          <span className={`block text-[12.5px] leading-[17px] ${chosen === question.key ? 'text-ink' : 'text-ink-3'}`}>
            {question.question}
          </span>
          <span className="block text-[14px] leading-[18px] whitespace-nowrap overflow-hidden text-ellipsis">
            <VerdictShape verdict={question.verdict} /> <span className="sr-only">{verdictWords[question.verdict]} </span>
            <b>{question.answer}</b> <span className="text-ink-2 text-[13px] ml-1">{question.more}</span>
          </span>
          {chosen === question.key && <span className={`absolute bottom-0 right-3 h-[5.5px] bg-tile ${i > 0 ? 'left-3' : 'left-0'}`} />}
        </button>
      ))}
    </div>
  );
}
