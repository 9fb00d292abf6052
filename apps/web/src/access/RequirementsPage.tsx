import { useQuery } from '@tanstack/react-query';
import type { RequirementSetView } from '@underpass/contracts';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { call } from '../api/client.js';
import { PeopleBar } from '../ui/PeopleBar.js';
import { Failed, Loading } from '../ui/States.js';
import { RequirementEditor } from './RequirementEditor.js';
import { useTitle } from './useTitle.js';

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

export const readinessSentence = (set: RequirementSetView): string => {
  const total = set.ready + set.fallback + set.notReady + set.notKnown;
  if (total === 0) return 'It is for nobody in this estate.';
  const [first] = set.blockers;
  if (set.notReady === 0)
    return set.notKnown
      ? `${set.notKnown} of ${total} people are not known.`
      : `All ${total} people are ready${set.fallback ? `, ${set.fallback} with a fallback` : ''}.`;
  return `${set.notReady} of ${total} people are not ready. Most often not met: ${(first?.name ?? '').charAt(0).toLowerCase()}${(first?.name ?? '').slice(1)}.`;
};

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
  const answer = useQuery({ queryKey: ['access', 'requirements'], queryFn: () => call<RequirementSetView[]>('access/requirements') });
  if (answer.isPending) return <Loading what="the requirement sets" />;
  if (!answer.data) return <Failed what="The requirement sets" error={answer.error} onRetry={() => void answer.refetch()} />;
  const sets = answer.data;
  const set = sets.find(({ id }) => id === search.get('set')) ?? sets[0];
  const perPerson = 150 / Math.max(1, ...sets.map((each) => each.ready + each.fallback + each.notReady + each.notKnown));
  return (
    <>
      <div className="flex items-start gap-4">
        <h1 className="flex-1">
          {set ? `${set.name}: ${readinessSentence(set).charAt(0).toLowerCase()}${readinessSentence(set).slice(1)}` : 'No requirement set'}
        </h1>
        <button className="btn" onClick={() => setEditing(template)}>
          Write a set of your own
        </button>
      </div>
      <div className="grid grid-cols-1 min-[1100px]:grid-cols-[300px_minmax(0,1fr)] gap-x-8 mt-3">
        <ul aria-label="Sets" className="border-t-[1.5px] border-ink self-start">
          {sets.map((each) => (
            <li key={each.id} className="border-b border-rule">
              <button
                data-row
                aria-pressed={each.id === set?.id}
                onClick={() => {
                  setEditing(null);
                  setSearch({ set: each.id }, { replace: true });
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
                </span>
              </button>
            </li>
          ))}
        </ul>
        <div className="min-w-0">
          {editing !== null ? (
            <RequirementEditor
              key={editing === template ? 'new' : editing}
              first={editing}
              set={editing === template ? null : (set ?? null)}
              onDone={(id) => {
                setEditing(null);
                if (id) setSearch({ set: id }, { replace: true });
              }}
            />
          ) : (
            set && <SetResult set={set} onEdit={() => setEditing(set.text)} />
          )}
        </div>
      </div>
    </>
  );
}

export function SetResult({ set, onEdit }: { set: RequirementSetView; onEdit?: () => void }) {
  return (
    <>
      <p className="text-ink-2">
        {set.purpose}
        {set.breaks && ` Where it is not met, the step “${set.breaks}” breaks.`}
        {onEdit && (
          <button className="link ml-2" onClick={onEdit}>
            Show and edit as text
          </button>
        )}
      </p>
      {set.blockers.length > 0 && (
        <table className="w-full mt-3 border-collapse">
          <caption className="text-left text-[15px] font-bold pb-1">What is not met</caption>
          <thead>
            <tr className="head">
              <th className="text-left font-normal pb-1">Condition</th>
              <th className="text-left font-normal">Bay</th>
              <th className="text-right font-normal pr-4">People</th>
              <th className="text-right font-normal pr-4">Only this</th>
              <th className="text-left font-normal">Who can do it</th>
            </tr>
          </thead>
          <tbody>
            {set.blockers.map((blocker) => (
              <tr key={blocker.condition} className="border-b border-rule h-[26px]">
                <td className="pr-3 font-semibold">{blocker.name}</td>
                <td className="pr-3">{blocker.bay}</td>
                <td className="text-right pr-4">{blocker.people}</td>
                <td className="text-right pr-4">{blocker.alone}</td>
                <td>{blocker.who}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {set.remedies.length > 0 && (
        <>
          <h2 className="mt-5">
            Order of remedies <span className="font-normal text-ink-3 text-[13px] ml-1">most people an hour of work first</span>
          </h2>
          <ol className="mt-1 border-t-[1.5px] border-ink">
            {set.remedies.map((step) => (
              <li
                key={step.works.map((work) => `${work.name}${work.object}`).join()}
                className="border-b border-rule py-1 grid grid-cols-[1fr_auto] gap-4"
              >
                <span>
                  {step.works.map((work, i) => (
                    <span key={`${work.name}${work.object}`}>
                      {i > 0 && '; '}
                      {work.name}{' '}
                      <span className="text-ink-3">
                        ({work.object}, {work.who.toLowerCase()})
                      </span>
                    </span>
                  ))}
                </span>
                <span className="whitespace-nowrap">
                  <b>{step.people}</b> {step.people === 1 ? 'person' : 'people'} <span className="text-ink-3">for {step.effortH} h</span>
                </span>
              </li>
            ))}
          </ol>
        </>
      )}
      {set.givenUp.length > 0 && (
        <>
          <h2 className="mt-5">What will not work afterwards</h2>
          <ul className="mt-1 border-t-[1.5px] border-ink">
            {set.givenUp.map((text) => (
              <li key={text} className="border-b border-rule py-1">
                {text}
              </li>
            ))}
          </ul>
        </>
      )}
      {set.people.length > 0 && (
        <>
          <h2 className="mt-5">People</h2>
          <ul className="mt-1 border-t-[1.5px] border-ink max-h-[260px] overflow-auto">
            {set.people.map((person) => (
              <li key={person.id} className="border-b border-rule py-1 grid grid-cols-[160px_100px_1fr] gap-3">
                <Link
                  className="border-b border-dotted border-ink-3 justify-self-start"
                  to={`/crossings/${encodeURIComponent(person.crossing)}?q=open`}
                >
                  {person.name}
                </Link>
                <span className={person.readiness === 'not ready' ? 'text-brick font-semibold' : 'text-ink-2'}>{person.readiness}</span>
                <span>{person.unmet.join('; ')}</span>
              </li>
            ))}
          </ul>
        </>
      )}
    </>
  );
}
