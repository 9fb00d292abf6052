import type { Change } from '@underpass/contracts';
import { isApplicable, isEmpty, noChange, type CrossingView } from '@underpass/core';
import { useCanEdit } from '../api/session.js';
import type { CrossingAnswer } from './crossingAnswer.js';
import { useApply } from './useApply.js';

/** In the hand: what is done next stands at the foot of the page, within reach of the thumb. */
export function HandBar({
  answer,
  view,
  change,
  name,
  untried,
  onCheck,
  onTry,
}: {
  answer: CrossingAnswer;
  view: CrossingView;
  change: Change;
  name: string | null;
  untried: string | null;
  onCheck: () => void;
  onTry: (change: Change, name: string | null) => void;
}) {
  const canEdit = useCanEdit();
  const { apply, busy, fault } = useApply(answer, change, name, () => onTry(noChange, null));
  const first = view.findings.flatMap(({ remedies }) => remedies).find((remedy) => !isEmpty(remedy.change));
  const trying = !isEmpty(change);
  const big = 'btn min-h-[44px] flex-1 !whitespace-normal leading-[16px] py-1';
  return (
    <div className="fixed bottom-0 inset-x-0 z-20 bg-paper border-t-[1.5px] border-ink px-4 py-2 no-print">
      {fault && (
        <p role="alert" className="text-brick pb-1">
          {fault}
        </p>
      )}
      <div className="flex gap-2">
        {trying ? (
          <>
            <button className={big} onClick={() => onTry(noChange, null)}>
              Back to now
            </button>
            {canEdit && (
              <button
                className={`${big} btn-primary`}
                disabled={busy || untried !== null || !isApplicable(change)}
                onClick={() => void apply()}
              >
                {isApplicable(change) ? 'Apply it' : 'Waits for work outside'}
              </button>
            )}
          </>
        ) : (
          <>
            {canEdit && (
              <button className={big} onClick={onCheck}>
                Send a field check
              </button>
            )}
            {first && (
              <button
                className={`${big} btn-primary`}
                aria-label={`Try the first remedy: ${first.text}`}
                onClick={() => {
                  onTry(first.change, first.text);
                  document.getElementById('how-it-is')?.scrollIntoView({ block: 'center' });
                }}
              >
                Try the first remedy
              </button>
            )}
          </>
        )}
      </div>
    </div>
  );
}
