import { useQuery } from '@tanstack/react-query';
import type { Change, LintAnswer } from '@underpass/contracts';
import { Link, useNavigate } from 'react-router';
import { useKeepDraft } from '../api/drafts.js';
import { useCanEdit } from '../api/session.js';
import { useTitle } from '../shell/useTitle.js';
import { Failed, Loading } from '../ui/States.js';
import { useAction } from '../ui/useAction.js';
import { Needless } from './Needless.js';
import { settingsQueries } from './queries.js';
import { Suggest } from './Suggest.js';

const capital = (text: string) => text.slice(0, 1).toUpperCase() + text.slice(1);

/** Checks between settings on the whole estate, each with a remedy that makes a draft; what may go; and one entry that would help many. */
export function ChecksPage() {
  useTitle('What does not fit');
  const lint = useQuery(settingsQueries.lint());
  const begin = useBegin();
  return (
    <div className="grid gap-x-12 gap-y-6 grid-cols-[minmax(0,1fr)] min-[1000px]:grid-cols-[minmax(0,1fr)_340px]">
      <div className="min-w-0">
        {lint.isPending && <Loading what="every crossing to be checked" />}
        {lint.isError && <Failed what="The checks" error={lint.error} onRetry={() => void lint.refetch()} />}
        {lint.data && <Rules answer={lint.data} onDraft={begin.draft} canEdit={begin.canEdit} busy={begin.busy} />}
        {begin.fault && (
          <p role="alert" className="text-brick mt-2">
            {begin.fault}
          </p>
        )}
      </div>
      <div className="min-w-0 min-[1000px]:border-l border-rule min-[1000px]:pl-6 grid gap-8 content-start">
        <Suggest onDraft={begin.draft} canEdit={begin.canEdit} busy={begin.busy} />
        <Needless onDraft={begin.draft} canEdit={begin.canEdit} busy={begin.busy} />
      </div>
    </div>
  );
}

/** An endpoint is told by its name where the remedy says “this”. */
function Place({ change, text }: { change: Change | null; text: string }) {
  const [patch] = change?.patches ?? [];
  return patch?.do === 'setting' && text.includes('this endpoint') ? <span className="mono text-ink-2"> {patch.target}</span> : null;
}

/** One click makes a draft, and opens it. */
function useBegin() {
  const canEdit = useCanEdit();
  const { keep } = useKeepDraft();
  const navigate = useNavigate();
  const { busy, fault, run } = useAction();
  const draft = (name: string, change: Change) =>
    void run(async () => {
      const { id } = await keep(name, { change });
      await navigate(`/settings/drafts/${id}`);
    });
  return { canEdit, busy, fault, draft };
}

function Rules({
  answer,
  onDraft,
  canEdit,
  busy,
}: {
  answer: LintAnswer;
  onDraft: (name: string, change: Change) => void;
  canEdit: boolean;
  busy: boolean;
}) {
  const { rules } = answer;
  return (
    <>
      <h1>
        {rules.length === 0
          ? 'All settings fit each other'
          : `${rules.length} ${rules.length === 1 ? 'thing does' : 'things do'} not fit among the settings`}
      </h1>
      <p className="text-ink-2">Every check was made on all {answer.crossings} crossings. What hits most people stands first.</p>
      <ul className="mt-3 border-t-[1.5px] border-ink">
        {rules.map((each) => (
          <li key={each.rule} className="border-b border-rule py-2" data-row>
            <p className="flex gap-4">
              <b className="text-[14px] flex-1">{capital(each.rule)}</b>
              <span className="text-ink-2 whitespace-nowrap">
                {each.people} {each.people === 1 ? 'person' : 'people'}
              </span>
            </p>
            <p>
              {each.cause}. <span className="text-ink-2">{each.consequence}.</span>
            </p>
            <p className="text-[12.5px] text-ink-3">
              {each.examples.slice(0, 3).map(({ crossing, person, endpoint }, i) => (
                <span key={crossing}>
                  {i > 0 && ', '}
                  <Link className="link" to={`/crossings/${encodeURIComponent(crossing)}`}>
                    {person}
                  </Link>{' '}
                  on <span className="mono">{endpoint}</span>
                </span>
              ))}
              {each.crossings > 3 && ` and ${each.crossings - 3} more crossings`}
            </p>
            <ul className="mt-1 grid gap-1">
              {each.remedies.slice(0, 3).map((remedy) => (
                <li key={`${remedy.text}${JSON.stringify(remedy.change)}`} className="flex flex-wrap gap-x-3 items-center">
                  <span>
                    {remedy.text}
                    <Place change={remedy.change} text={remedy.text} />
                    {remedy.ask && <span className="text-ink-3">; {remedy.ask}</span>}
                  </span>
                  {canEdit && remedy.change && (
                    <button
                      className="btn btn-small"
                      disabled={busy}
                      onClick={() => remedy.change && onDraft(remedy.text, remedy.change)}
                      aria-label={`Make a draft: ${remedy.text}`}
                    >
                      Make a draft
                    </button>
                  )}
                </li>
              ))}
              {each.remedies.length > 3 && (
                <li className="text-ink-3">
                  and {each.remedies.length === 4 ? 'one more place' : `${each.remedies.length - 3} more places`}
                </li>
              )}
            </ul>
          </li>
        ))}
      </ul>
    </>
  );
}
