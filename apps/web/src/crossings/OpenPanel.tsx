import { useQuery } from '@tanstack/react-query';
import type { Change, CrossingBetween } from '@underpass/contracts';
import { isEmpty, type CrossingView } from '@underpass/core';
import { Link } from 'react-router';
import { crossingQueries } from './queries.js';

const words: Record<string, string> = { met: 'met', fallback: 'a fallback will do', 'not met': 'not met', 'not known': 'not known' };

/** The ladder step by step, and the way to who sees what. */
export function Ladder({ between, view }: { between: CrossingBetween; view: CrossingView }) {
  const why = between.visible ? '' : `?why=${encodeURIComponent(between.resource.id)}`;
  return (
    <section aria-label="Steps until it opens" className="pt-3">
      <h2>Steps until it opens</h2>
      <ol className="border-t-[1.5px] border-ink mt-1">
        {view.ladder.map((step) => (
          <li
            key={step.name}
            className={`border-b border-rule leading-[20px] grid grid-cols-[minmax(0,1fr)_100px_100px] gap-3 ${step.state === 'broken' ? 'text-brick font-bold' : step.state === 'not reached' ? 'text-ink-3' : ''}`}
          >
            <span>{step.name}</span>
            <span className="text-ink-3 font-normal">{step.bay}</span>
            <span>{step.state === 'assumed' ? 'taken to pass' : step.state === 'not known' ? 'may break' : step.state}</span>
          </li>
        ))}
      </ol>
      <p className="mt-1.5">
        <Link className="link" to={`/access/people/${encodeURIComponent(between.person.id)}${why}`}>
          {between.visible ? `What ${between.person.name} sees, and through what` : `Why ${between.person.name} does not see it`}
        </Link>
      </p>
    </section>
  );
}

/** The features that have conditions on this crossing. */
export function Readiness({ id, change }: { id: string; change: Change }) {
  const answer = useQuery(crossingQueries.readiness(id, change));
  if (!answer.data?.sets.length) return null;
  return (
    <section aria-label="Features with conditions" className="pt-4">
      {answer.data.sets.map((set) => (
        <div key={set.id} className="mb-3">
          <h2>
            <Link className="border-b border-dotted border-ink-3" to={`/access/requirements?set=${encodeURIComponent(set.id)}`}>
              {set.name}
            </Link>{' '}
            <span className={`font-normal text-[13px] ml-1 ${set.readiness === 'not ready' ? 'text-brick' : 'text-ink-3'}`}>
              {set.readiness}
              {isEmpty(change) ? '' : ' with the change'}
            </span>
          </h2>
          <ul className="mt-1 border-t-[1.5px] border-ink">
            {set.conditions.map((condition) => (
              <li key={condition.id} className="border-b border-rule py-0.5 grid grid-cols-[minmax(0,1fr)_130px] gap-3">
                <span className={condition.state === 'not met' ? 'font-semibold' : ''}>
                  {condition.name}
                  {condition.state === 'not met' && (
                    <span className="block font-normal text-ink-2">
                      {condition.remedy} <span className="text-ink-3">({condition.who.toLowerCase()})</span>
                    </span>
                  )}
                  {condition.costs && <span className="block text-ink-2">costs {condition.costs}</span>}
                </span>
                <span
                  className={
                    condition.state === 'not met' ? 'text-brick font-bold' : condition.state === 'fallback' ? 'text-amber' : 'text-ink-3'
                  }
                >
                  {words[condition.state]}
                </span>
              </li>
            ))}
          </ul>
          {set.givenUp.length > 0 && set.readiness !== 'not ready' && (
            <p className="text-ink-3 mt-1">Given up for it: {set.givenUp.join('; ')}.</p>
          )}
        </div>
      ))}
    </section>
  );
}
