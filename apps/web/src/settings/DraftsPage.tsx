import { Link } from 'react-router';
import { useDrafts, useKeepDraft } from '../api/drafts.js';
import { useCanEdit } from '../api/session.js';
import { useTitle } from '../shell/useTitle.js';
import { Empty, Failed, Loading } from '../ui/States.js';
import { moment } from '../ui/times.js';

/** Every draft that is kept, newest first. */
export function DraftsPage() {
  useTitle('Drafts');
  const canEdit = useCanEdit();
  const drafts = useDrafts();
  const { drop } = useKeepDraft();
  if (drafts.isPending) return <Loading what="the drafts" />;
  if (drafts.isError) return <Failed page what="The drafts" error={drafts.error} onRetry={() => void drafts.refetch()} />;
  return (
    <div className="max-w-[1080px]">
      <h1>{drafts.data.length === 0 ? 'No draft is kept' : `${drafts.data.length} ${drafts.data.length === 1 ? 'draft' : 'drafts'}`}</h1>
      <p className="text-ink-2">On paper, nothing is applied. Whoever has the address of a draft sees it.</p>
      {drafts.data.length === 0 ? (
        <Empty
          action={
            <Link className="btn" to="/settings">
              Choose a setting
            </Link>
          }
        >
          A draft begins where a setting gets another value on paper.
        </Empty>
      ) : (
        <ul className="mt-3 border-t-[1.5px] border-ink">
          {drafts.data.map((draft) => (
            <li
              key={draft.id}
              className="border-b border-rule py-2 grid grid-cols-1 min-[700px]:grid-cols-[minmax(0,1fr)_170px_150px_auto] gap-x-4 gap-y-1 items-center"
              data-row
            >
              <span className="min-w-0">
                <Link className="link text-[14px]" to={`/settings/drafts/${draft.id}`}>
                  {draft.name}
                </Link>
                {draft.done && <span className="text-ink-3 ml-2">stands so already</span>}
                {draft.conflicts.length > 0 && (
                  <span className="block text-amber">
                    Changed since: {draft.conflicts[0]?.text}
                    {draft.conflicts.length > 1 && ` and ${draft.conflicts.length - 1} more`}
                  </span>
                )}
              </span>
              <span className="text-ink-2">
                {draft.change.patches.length + draft.change.hypotheses.length}{' '}
                {draft.change.patches.length + draft.change.hypotheses.length === 1 ? 'step' : 'steps'}, {draft.createdBy}
              </span>
              <span className="text-ink-3">{moment(draft.createdAt)}</span>
              {canEdit && (
                <button className="btn btn-small" aria-label={`Drop ${draft.name}`} onClick={() => void drop(draft)}>
                  Drop it
                </button>
              )}
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
