import { useQuery } from '@tanstack/react-query';
import type { AuditEntry, DraftView } from '@underpass/contracts';
import { Link } from 'react-router';
import { useDrafts, useKeepDraft } from '../api/drafts.js';
import { cancelJob, useJobs } from '../api/jobs.js';
import { useCanEdit } from '../api/session.js';
import { useUndo } from '../ui/useUndo.js';
import { Empty, Failed, Loading } from '../ui/States.js';
import { useTitle } from '../shell/useTitle.js';
import { cellOf } from './kinds.js';
import { ago, moment } from '../ui/times.js';
import { Work } from '../ui/Work.js';
import { estateQueries } from './queries.js';
import { BackToEstate } from '../ui/BackToEstate.js';

/** Who changed what and when; what nothing later rests on can be taken back. Below it the drafts that are kept. */
export function ChangesPage() {
  const undo = useUndo();
  const canEdit = useCanEdit();
  const changes = useQuery(estateQueries.changes());
  const drafts = useDrafts();
  const jobs = useJobs();
  const open = (jobs.data ?? []).filter(({ state }) => state === 'waiting' || state === 'running');
  const { drop } = useKeepDraft();
  useTitle('Changes');
  return (
    <div className="px-6 pt-[15px] max-w-[1180px]">
      <BackToEstate />
      <h1>Changes</h1>
      {open.length > 0 && (
        <section aria-label="Work under way" className="mt-3 border-y border-rule bg-tile-wash/50 px-3">
          {open.map((job) => (
            <div key={job.id} className="flex flex-wrap gap-x-6 items-center">
              <b className="font-semibold min-w-[220px]">{job.name}</b>
              <span className="text-ink-3">{job.by}</span>
              <Work job={job} {...(canEdit ? { onCancel: () => void cancelJob(job.id) } : {})} />
            </div>
          ))}
        </section>
      )}
      {changes.isPending && <Loading what="the changes" />}
      {changes.isError && <Failed what="The changes" error={changes.error} onRetry={() => void changes.refetch()} />}
      <ol className="mt-3 border-t-[1.5px] border-ink">
        {changes.data?.map((entry) => (
          <li
            key={entry.changeId}
            data-row
            tabIndex={-1}
            className="border-b border-rule py-2 grid grid-cols-1 min-[640px]:grid-cols-[150px_150px_minmax(0,1fr)_auto] gap-x-4 gap-y-1"
          >
            <span className="text-ink-3" title={moment(entry.at)}>
              {moment(entry.at)}
              <span className="block text-[12.5px]">{ago(entry.at)}</span>
            </span>
            <span>{entry.by}</span>
            <div className="min-w-0">
              <b className={`font-semibold ${entry.undone ? 'line-through text-ink-3' : ''}`}>{entry.summary}</b>
              {entry.undone && <span className="text-ink-3"> taken back</span>}
              {entry.objects.length <= 5 && entry.objects.map((object) => <Moved key={`${object.kind}/${object.id}`} object={object} />)}
              {entry.objects.length > 5 && (
                <p className="text-ink-3">{entry.objects.length === 20 ? '20 or more' : entry.objects.length} objects</p>
              )}
            </div>
            {canEdit && entry.canUndo ? (
              <button className="btn btn-small self-start" onClick={() => undo(entry.changeId, `Taken back: ${entry.summary}.`)}>
                Take it back
              </button>
            ) : (
              <span className="text-ink-3 max-w-[220px] text-right">{entry.restsOn && `Cannot be taken back: ${entry.restsOn}`}</span>
            )}
          </li>
        ))}
      </ol>
      {changes.data?.length === 0 && <Empty>Nothing was changed yet.</Empty>}
      <h2 className="mt-8">
        Drafts <small className="font-normal text-[13px] text-ink-3 ml-2">on paper, nothing is applied</small>
      </h2>
      <ul className="mt-1 border-t-[1.5px] border-ink">
        {drafts.data?.map((draft) => (
          <li key={draft.id} className="border-b border-rule py-1.5 flex gap-4 items-center">
            <span className="w-[150px] text-ink-3">{moment(draft.createdAt)}</span>
            <span className="w-[150px]">{draft.createdBy}</span>
            <span className="flex-1">
              <Link className="link" to={placeOf(draft)}>
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
            {canEdit && (
              <button className="btn btn-small" onClick={() => void drop(draft)}>
                Drop it
              </button>
            )}
          </li>
        ))}
      </ul>
      {drafts.data?.length === 0 && (
        <p className="text-ink-2 py-2">No draft is kept. Try a change on a crossing, or of who sees what, and keep it.</p>
      )}
    </div>
  );
}

/** Where a draft is gone on with: on its crossing, where people are moved, or on its own page. */
function placeOf({ id, crossing, change }: DraftView): string {
  if (crossing) return `/crossings/${encodeURIComponent(crossing)}?draft=${id}`;
  return change.patches.some((patch) => patch.do === 'move') ? `/access?draft=${id}` : `/settings/drafts/${id}`;
}

function Moved({ object }: { object: AuditEntry['objects'][number] }) {
  const before = (object.before ?? {}) as Record<string, unknown>;
  const after = (object.after ?? {}) as Record<string, unknown>;
  const fields = [...new Set([...Object.keys(before), ...Object.keys(after)])].filter(
    (field) => JSON.stringify(before[field]) !== JSON.stringify(after[field]),
  );
  return (
    <p className="text-ink-2 truncate">
      <Link className="link mono" to={`/estate/${object.kind}/${encodeURIComponent(object.id)}`}>
        {object.id}
      </Link>{' '}
      {object.before === null
        ? 'added'
        : object.after === null
          ? 'removed'
          : fields
              .map((field) =>
                `${field}: ${cellOf(before[field]) || 'not known'} → ${cellOf(after[field]) || 'not known'}`.replace('→', 'to'),
              )
              .join('; ')}
    </p>
  );
}
