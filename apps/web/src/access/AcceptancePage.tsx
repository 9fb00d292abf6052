import { useQuery, useQueryClient } from '@tanstack/react-query';
import type { AcceptancePlanView, AcceptanceView } from '@underpass/contracts';
import { noChange } from '@underpass/core';
import { Link, useSearchParams } from 'react-router';
import { call, orLookAgain } from '../api/client.js';
import { useCanEdit } from '../api/session.js';
import { useAction } from '../ui/useAction.js';
import { accessQueries } from './queries.js';
import { Failed, Loading } from '../ui/States.js';
import { useTitle } from '../shell/useTitle.js';
import { moment } from '../ui/times.js';
import { OnPaper, PaperChoice, usePaper } from './PaperChoice.js';
import { Tester } from './Tester.js';

/** Kinds of person, the fewest people to test with, and the checklist of the run. */
export function AcceptancePage() {
  useTitle('Acceptance');
  const client = useQueryClient();
  const { run: act } = useAction('foot');
  const canEdit = useCanEdit();
  const [search, setSearch] = useSearchParams();
  const asked = search.get('run');
  const paper = usePaper();
  const { draft } = paper;
  const answer = useQuery(accessQueries.acceptance(asked));
  const onPaper = useQuery({ ...accessQueries.acceptancePlan(draft?.change ?? noChange), enabled: draft !== null });
  if (answer.isPending) return <Loading what="the test people" />;
  if (!answer.data)
    return <Failed page what={asked ? 'This run' : 'The test people'} error={answer.error} onRetry={() => void answer.refetch()} />;
  const view = answer.data;
  const { run } = view;
  if (draft && onPaper.isPending) return <Loading what="the test people on paper" />;
  if (draft && !onPaper.data)
    return <Failed page what="This draft" error={onPaper.error as Error} onRetry={() => void onPaper.refetch()} />;
  const plan: AcceptancePlanView = (draft && onPaper.data) || view;
  const send = (method: string, path: string, body?: unknown) =>
    act(async () => {
      const next = await orLookAgain(call<AcceptanceView>(path, method, body), answer.refetch);
      const shown = next.run && next.run.id !== next.runs[0]?.id ? next.run.id : null;
      client.setQueryData(accessQueries.acceptance(shown).queryKey, next);
      if (method === 'POST' && path === 'access/acceptance') setSearch({}, { replace: true });
    });
  const open = run && !run.signedOffAt ? run : null;
  return (
    <>
      <div className="flex items-start gap-x-4 gap-y-2 flex-wrap">
        <div className="flex-1">
          <h1>
            {plan.testers.length} people see all {plan.publications} publications that anybody sees
          </h1>
          <p className="text-ink-2">
            {plan.optimal ? 'No smaller list of people does.' : 'Chosen greedily; a list shorter by a few may exist.'} There are{' '}
            {plan.sets.length} kinds of person, by what they see.
            {plan.unseen.length > 0 && ` Nobody can test ${plan.unseen.map(({ name, because }) => `${name}: ${because}`).join('; ')}.`}
          </p>
        </div>
        <PaperChoice paper={paper} />
        {canEdit && !draft && (
          <button className={`btn ${open ? '' : 'btn-primary'}`} onClick={() => void send('POST', 'access/acceptance')}>
            {open ? 'Start anew' : 'Start a run'}
          </button>
        )}
      </div>
      <OnPaper draft={draft} />
      {draft ? null : run ? (
        <section aria-label="Run" className="mt-4">
          <h2>
            Run of {moment(run.startedAt)}
            <span className="font-normal text-ink-3 text-[13px] ml-2">
              {run.signedOffAt
                ? `signed off by ${run.signedOffBy}, ${moment(run.signedOffAt)}`
                : `${run.testers.filter(({ saw }) => saw !== null).length} of ${run.testers.length} have looked`}
            </span>
          </h2>
          <ol className="mt-1 border-t-[1.5px] border-ink">
            {run.testers.map((tester) => (
              <Tester
                key={`${run.id}${tester.person}`}
                tester={tester}
                editable={open !== null && canEdit}
                onSaw={(seen) => send('PUT', `access/acceptance/${run.id}/testers/${tester.person}`, seen)}
              />
            ))}
          </ol>
          {open && canEdit && (
            <button
              className="btn btn-primary mt-3"
              disabled={open.testers.some(({ saw }) => saw === null)}
              onClick={() => void send('POST', `access/acceptance/${open.id}/sign-off`)}
            >
              Sign off the run
            </button>
          )}
        </section>
      ) : (
        <p className="mt-4 border-t-[1.5px] border-ink pt-3 text-ink-2">
          No run yet. Start one: each person looks at their list, at the portal or with you beside them, and what they saw is compared with
          what they should see.
        </p>
      )}
      {!draft && view.runs.length > 1 && <EarlierRuns runs={view.runs} shown={run?.id} />}
      <Kinds sets={plan.sets} />
    </>
  );
}

function Kinds({ sets }: Pick<AcceptancePlanView, 'sets'>) {
  return (
    <>
      <h2 className="mt-7">Kinds of person</h2>
      <ul className="mt-1 border-t-[1.5px] border-ink">
        {sets.map((set) => (
          <li
            key={set.resources.map(({ id }) => id).join()}
            className="border-b border-rule py-1 grid grid-cols-1 min-[640px]:grid-cols-[90px_1fr_1fr] gap-4"
          >
            <span>
              <b>{set.people}</b> {set.people === 1 ? 'person' : 'people'}
            </span>
            <span>{set.resources.map(({ name }) => name).join(', ')}</span>
            <span className="text-ink-3 truncate">
              {set.first.map((person, i) => (
                <span key={person.id}>
                  {i > 0 && ', '}
                  <Link className="border-b border-dotted border-ink-3" to={`/access/people/${encodeURIComponent(person.id)}`}>
                    {person.name}
                  </Link>
                </span>
              ))}
              {set.people > set.first.length && ' and more'}
            </span>
          </li>
        ))}
      </ul>
    </>
  );
}

function EarlierRuns({ runs, shown }: { runs: AcceptanceView['runs']; shown: string | undefined }) {
  return (
    <section aria-labelledby="runs" className="mt-7">
      <h2 id="runs">All runs</h2>
      <ul className="mt-1 border-t-[1.5px] border-ink">
        {runs.map((each, i) => (
          <li key={each.id} className="border-b border-rule py-1 grid grid-cols-1 min-[640px]:grid-cols-[170px_1fr_1fr] gap-4">
            <Link
              className={each.id === shown ? 'font-bold' : 'link'}
              aria-current={each.id === shown ? 'true' : undefined}
              to={i === 0 ? '/access/acceptance' : `/access/acceptance?run=${each.id}`}
            >
              {moment(each.startedAt)}
            </Link>
            <span>
              {each.looked} of {each.people} have looked
              {each.looked > 0 &&
                (each.differ > 0 ? (
                  <b className="text-amber">, {each.differ} saw something else</b>
                ) : (
                  <span className="text-ink-3">, all saw what they should</span>
                ))}
            </span>
            <span className="text-ink-3">
              {each.signedOffAt ? `signed off by ${each.signedOffBy}, ${moment(each.signedOffAt)}` : `open, started by ${each.startedBy}`}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
