import type { Change, Layer } from '@underpass/contracts';
import { isApplicable, noChange } from '@underpass/core';
import { useState } from 'react';
import { useKeepDraft } from '../api/drafts.js';
import { useCanEdit } from '../api/session.js';
import { useNotice } from '../ui/Notice.js';
import { useAction } from '../ui/useAction.js';
import { pathTo } from './changeLink.js';
import type { CrossingAnswer } from './crossingAnswer.js';
import { ImpactDialog } from './ImpactDialog.js';
import { useApply } from './useApply.js';
import type { useTried } from './useTried.js';

/** What can be done with a change that is tried: for whom it is, apply it, see its impact, keep it, hand it on. */
export function TryFoot({
  answer,
  change,
  summary,
  untried,
  choice,
  onChange,
}: {
  answer: CrossingAnswer;
  change: Change;
  summary: string;
  /** Why the change could not be worked out, if it could not. */
  untried: string | null;
  choice: ReturnType<typeof useTried>;
  onChange: (change: Change, text: string | null) => void;
}) {
  const notice = useNotice();
  const drafts = useKeepDraft();
  const canEdit = useCanEdit();
  const { busy: keeping, fault: unkept, run } = useAction();
  const { apply, busy: applying, fault: unapplied } = useApply(answer, change, summary, () => onChange(noChange, null));
  const [busy, fault] = [keeping || applying, unapplied ?? unkept];
  const [impact, setImpact] = useState(false);
  const applicable = isApplicable(change);
  const keep = () =>
    run(async () => {
      await drafts.keep(summary, { crossing: answer.id, change });
      return { text: `Kept as draft: ${summary}. Nothing is applied.` };
    });
  const copy = async () => {
    const path = pathTo(answer.id, change, summary);
    if (!path) return notice({ text: 'This change is too large for a link. Keep it as a draft instead.' });
    const link = `${location.origin}${path}`;
    try {
      await navigator.clipboard.writeText(link);
      notice({ text: 'The link is copied. Whoever opens it sees this change on paper.' });
    } catch {
      notice({ text: `The browser does not let this page copy. The link: ${link}` });
    }
  };
  return (
    <>
      <p role="alert" className="text-brick mt-2 empty:hidden">
        {fault ?? (untried && `This change could not be worked out: ${untried}. Nothing of it is shown or applied.`)}
      </p>
      <div className="mt-3 flex flex-wrap gap-x-3 gap-y-2 items-center no-print sticky bottom-0 bg-paper py-2.5 z-10 border-t border-rule max-[719px]:static">
        {choice.hasSettings && (
          <label className="flex items-center gap-2">
            For
            <select className="field" value={choice.layer} onChange={(event) => choice.move(event.target.value as Layer)}>
              {Object.entries(choice.targets).map(([key, { name }]) => (
                <option key={key} value={key}>
                  {name} ({key})
                </option>
              ))}
            </select>
          </label>
        )}
        {canEdit && (
          <button
            className="btn btn-primary"
            disabled={!applicable || busy || untried !== null}
            onClick={() => void apply()}
            title={applicable ? undefined : 'This waits for work outside; it cannot be applied from here'}
          >
            {choice.hasSettings ? 'Apply' : 'Record as done'}
          </button>
        )}
        <button data-impact className="btn" onClick={() => setImpact(true)}>
          See impact on the estate
        </button>
        {canEdit && (
          <button data-draft className="btn" disabled={busy} onClick={() => void keep()}>
            Keep as draft
          </button>
        )}
        <button className="btn" onClick={() => void copy()}>
          Copy a link
        </button>
        <button className="btn btn-quiet" onClick={choice.back}>
          Back to now
        </button>
      </div>
      {impact && <ImpactDialog change={change} summary={summary} onClose={() => setImpact(false)} />}
    </>
  );
}
