import { useQuery } from '@tanstack/react-query';
import type { RequirementSetView } from '@underpass/contracts';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { PeopleBar } from '../ui/PeopleBar.js';
import { Failed, Loading } from '../ui/States.js';
import { RequirementEditor } from './RequirementEditor.js';
import { readinessSentence, SetResult } from './SetResult.js';
import { useTitle } from '../shell/useTitle.js';
import { accessQueries } from './queries.js';
import { OnPaper, PaperChoice, usePaper } from './PaperChoice.js';

const template = `- id: my-feature
  name: My feature
  purpose: What it is good for, in one sentence.
  appliesTo: { fact: resource.kind, is: app }
  conditions:
    - id: host-release
      name: The host is new enough
      bay: Host
      when: { fact: host.release, atLeast: '11.0' }
      remedy: Bring the host to release 11.0 or later
      who: Image engineer
      at: host
      effortH: 6
`;

const countsOf = (set: RequirementSetView): string =>
  [
    [set.notReady, 'not ready'],
    [set.fallback, 'with a fallback'],
    [set.notKnown, 'not known'],
    [set.ready, 'ready'],
  ]
    .filter(([n]) => n !== 0)
    .map((part) => part.join(' '))
    .join(', ') || 'for nobody here';

/** Requirement sets: who is ready for a feature, what keeps most people out, and in which order to mend it. */
export function RequirementsPage() {
  useTitle('Requirement sets');
  const [search, setSearch] = useSearchParams();
  const [editing, setEditing] = useState<string | null>(null);
  const paper = usePaper();
  const { draft } = paper;
  const answer = useQuery(accessQueries.requirements(draft?.change ?? null));
  const now = useQuery({ ...accessQueries.requirements(), enabled: draft !== null });
  if (answer.isPending) return <Loading what="the requirement sets" />;
  if (!answer.data) return <Failed page what="The requirement sets" error={answer.error} onRetry={() => void answer.refetch()} />;
  const sets = answer.data;
  const asked = search.get('set');
  const set = asked === null ? sets[0] : sets.find(({ id }) => id === asked);
  const perPerson = 150 / Math.max(1, ...sets.map((each) => each.ready + each.fallback + each.notReady + each.notKnown));
  return (
    <>
      <div className="flex items-start gap-x-4 gap-y-2 flex-wrap">
        <h1 className="flex-1 min-w-[min(100%,280px)]">
          {set
            ? `${set.name}: ${readinessSentence(set).charAt(0).toLowerCase()}${readinessSentence(set).slice(1)}`
            : asked === null
              ? 'No requirement set'
              : `There is no requirement set “${asked}”`}
        </h1>
        <PaperChoice paper={paper} />
        {!draft && (
          <button className="btn" onClick={() => setEditing(template)}>
            Write a set of your own
          </button>
        )}
      </div>
      <OnPaper draft={draft} />
      <div className="grid grid-cols-1 min-[1100px]:grid-cols-[300px_minmax(0,1fr)] gap-x-8 mt-3">
        <ul aria-label="Sets" className="border-t-[1.5px] border-ink self-start">
          {sets.map((each) => (
            <li key={each.id} className="border-b border-rule">
              <button
                data-row
                aria-pressed={each.id === set?.id}
                onClick={() => {
                  setEditing(null);
                  setSearch({ set: each.id, ...(draft ? { draft: draft.id } : {}) }, { replace: true });
                }}
                className={`w-full text-left py-1.5 pl-3 relative hover:bg-earth ${each.id === set?.id ? 'before:content-[""] before:absolute before:left-0 before:inset-y-1.5 before:w-[5.5px] before:bg-tile' : ''}`}
              >
                <span className={each.id === set?.id ? 'font-bold' : 'font-semibold'}>{each.name}</span>{' '}
                <span className="text-ink-3 ml-1">{each.origin}</span>
                <span className="block mt-1">
                  <PeopleBar
                    counts={{ blocked: each.notReady, limited: each.fallback, unknown: each.notKnown, clear: each.ready }}
                    perPerson={perPerson}
                    most={220}
                    height={10}
                  />
                  <span className="text-ink-2">{countsOf(each)}</span>
                  {draft && <Before set={each} now={now.data} />}
                </span>
              </button>
            </li>
          ))}
        </ul>
        <div className="min-w-0">
          {editing !== null && !draft ? (
            <RequirementEditor
              key={editing === template ? 'new' : editing}
              first={editing}
              set={editing === template ? null : (set ?? null)}
              onDone={(id) => {
                setEditing(null);
                if (id !== undefined) setSearch(id === null ? {} : { set: id }, { replace: true });
              }}
            />
          ) : (
            set && <SetResult set={set} {...(draft ? {} : { onEdit: () => setEditing(set.text) })} />
          )}
        </div>
      </div>
    </>
  );
}

/** Beside what would be: how many are ready as it is. */
function Before({ set, now }: { set: RequirementSetView; now: readonly RequirementSetView[] | undefined }) {
  const before = now?.find(({ id }) => id === set.id);
  if (!now) return null;
  const words = before ? countsOf(before) : 'not there';
  return <span className="block text-ink-3">{words === countsOf(set) ? 'the same as it is' : `as it is: ${words}`}</span>;
}
