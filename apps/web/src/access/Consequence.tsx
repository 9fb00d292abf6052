import type { Applied, Change, ConsequenceView } from '@underpass/contracts';
import { call } from '../api/client.js';
import { cancelJob, useLong } from '../api/jobs.js';
import { useKeepDraft } from '../api/drafts.js';
import { useCanEdit } from '../api/session.js';
import { barOrder } from '../ui/PeopleBar.js';
import { useAction } from '../ui/useAction.js';
import { Loading } from '../ui/States.js';
import { Verdict } from '../ui/Verdict.js';
import { Work } from '../ui/Work.js';

/** What an access change comes to, on paper: it is applied, or kept as a draft for later. */
export function Consequence({
  change,
  summary,
  kept = false,
  onApplied,
}: {
  change: Change;
  summary: string;
  /** It is a draft already. */
  kept?: boolean;
  onApplied: () => void;
}) {
  const drafts = useKeepDraft();
  const canEdit = useCanEdit();
  const { busy, run } = useAction('foot');
  const paper = useLong<ConsequenceView>('access/consequence', { change });
  const { job } = paper;
  if (job) return <Work job={job} onCancel={() => void cancelJob(job.id)} />;
  if (paper.error)
    return (
      <p role="alert" className="text-brick py-2">
        {paper.error.message}
      </p>
    );
  if (!paper.data) return <Loading what="what it comes to" />;
  const { people, rows, verdicts, worst, version } = paper.data;
  const apply = async () => {
    const done = await run(async () => {
      const applied = await call<Applied>('changes', 'POST', { change, summary, seen: version });
      const shows = people === 1 ? 'It shows' : `For ${people} people it shows`;
      return { text: `Applied: ${summary}. ${shows} at the next sign-in.`, applied };
    });
    if (done) onApplied();
    else paper.again();
  };
  const keep = () =>
    run(async () => {
      const draft = await drafts.keep(summary, { change });
      return {
        text: `Kept as draft: ${summary}. It stands under Changes.`,
        action: { label: 'Drop it', run: () => void drafts.drop(draft) },
      };
    });
  return (
    <section aria-label="What it comes to" className="bg-tile-wash/50 border-y border-rule py-2.5 px-3">
      <p className="text-[14px] leading-[18px] font-bold">
        {people === 0
          ? 'Nobody’s list changes'
          : `${people} ${people === 1 ? 'person sees' : 'people see'} another list at the next sign-in`}
        <span className="font-normal text-ink-3 ml-2">on paper, nothing is applied</span>
      </p>
      {rows.length > 0 && (
        <ul className="mt-1.5 max-h-[168px] overflow-auto border-t border-rule" tabIndex={0} aria-label="For whom">
          {rows.map((row) => (
            <li
              key={row.person.id}
              className="border-b border-rule py-1 grid grid-cols-1 min-[640px]:grid-cols-[minmax(110px,150px)_1fr] gap-3"
            >
              <b className="font-semibold truncate">{row.person.name}</b>
              <span>
                {row.gains.length > 0 && <>gains {row.gains.join(', ')}</>}
                {row.gains.length > 0 && row.loses.length > 0 && '; '}
                {row.loses.length > 0 && <>loses {row.loses.join(', ')}</>}
                {row.desktops.length > 0 && <span className="text-amber">; has to choose between {row.desktops.join(' and ')}</span>}
              </span>
            </li>
          ))}
          {people > rows.length && <li className="py-1 text-ink-3">and {people - rows.length} more</li>}
        </ul>
      )}
      {Object.values(verdicts).some((n) => n > 0) && (
        <p className="mt-2 flex gap-3 items-baseline">
          New crossings
          {barOrder
            .filter((verdict) => verdicts[verdict] > 0)
            .map((verdict) => (
              <span key={verdict} className="whitespace-nowrap">
                <b>{verdicts[verdict]}</b> <Verdict verdict={verdict} />
              </span>
            ))}
        </p>
      )}
      {worst.map((row) => (
        <p key={row.sentence} className="mt-1">
          <Verdict verdict={row.verdict} /> {row.first}
          {row.people > 1 && ` and ${row.people - 1} more`}: {row.sentence}
        </p>
      ))}
      {canEdit && people > 0 && (
        <p className="mt-3 flex gap-3">
          <button className="btn btn-primary" disabled={busy} onClick={() => void apply()}>
            Apply this change
          </button>
          {!kept && (
            <button className="btn" disabled={busy} onClick={() => void keep()}>
              Keep as draft
            </button>
          )}
        </p>
      )}
    </section>
  );
}
