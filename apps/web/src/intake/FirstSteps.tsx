import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { useCanEdit } from '../api/session.js';
import { intakeQueries } from './queries.js';

/** What is best done first in an estate that has little in it: at most five lines, each gone when it is done. */
export function FirstSteps() {
  const canEdit = useCanEdit();
  const steps = useQuery({ ...intakeQueries.firstSteps(), enabled: canEdit });
  if (!canEdit || !steps.data?.length) return null;
  return (
    <section aria-labelledby="first-steps" className="mt-3 mb-3 border-t-[1.5px] border-ink pt-2 max-w-[720px]">
      <h2 id="first-steps">First steps</h2>
      <ul>
        {steps.data.map(({ text, to, action }) => (
          <li key={text} className="border-b border-rule py-1.5 flex flex-wrap gap-3 items-center">
            <span className="flex-1">{text}</span>
            <Link className="btn btn-small" to={to}>
              {action}
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
}
