import { useQuery } from '@tanstack/react-query';
import type { RequirementSetView } from '@underpass/contracts';
import { useEffect, useState } from 'react';
import { call } from '../api/client.js';
import { useCanEdit } from '../api/session.js';
import { useAction } from '../ui/useAction.js';
import { accessQueries } from './queries.js';
import { readinessSentence, SetResult } from './SetResult.js';

/** A set as text, evaluated while it is written; nothing is kept before it is saved. */
export function RequirementEditor({
  first,
  set,
  onDone,
}: {
  first: string;
  set: RequirementSetView | null;
  /** With the set that was kept, with null where it was removed, with nothing where it was left. */
  onDone: (id?: string | null) => void;
}) {
  const { busy, run } = useAction('foot');
  const canEdit = useCanEdit();
  const [text, setText] = useState(first);
  const [settled, setSettled] = useState(first);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(text), 350);
    return () => clearTimeout(timer);
  }, [text]);
  const tried = useQuery(accessQueries.tried(settled));
  const problems = tried.data?.problems ?? [];
  const save = () =>
    run(async () => {
      const { ids } = await call<{ ids: string[] }>('access/requirements', 'PUT', { text, seen: set?.version ?? 0 });
      onDone(ids[0]);
      return { text: `Kept: ${ids.join(', ')}.` };
    });
  const remove = () =>
    run(async () => {
      if (!set) return;
      const { changeId } = await call<{ changeId: string }>(`access/requirements/${set.id}`, 'DELETE');
      onDone(set.origin === 'own' ? null : undefined);
      return { text: set.origin === 'own' ? `${set.name} is removed.` : `${set.name} stands as shipped again.`, changeId };
    });
  return (
    <section aria-label="Set as text">
      <label htmlFor="set-text" className="text-ink-2">
        YAML. A condition compares a fact with is, isNot, oneOf, includes, atLeast, below, known or order; all, any and not put tests
        together.
      </label>
      <textarea
        id="set-text"
        className="mono w-full h-[300px] mt-1.5 border border-rule-2 bg-sheet p-2 rounded-[2px] leading-[18px]"
        spellCheck={false}
        aria-invalid={problems.length > 0}
        aria-describedby="set-problems"
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <div id="set-problems" role="status" className="min-h-[22px]">
        {problems.map((problem) => (
          <p key={`${problem.line}${problem.field}${problem.problem}`} className="text-brick">
            Line {problem.line}: {problem.field} {problem.problem}
          </p>
        ))}
        {tried.isError && <p className="text-brick">{tried.error.message}</p>}
        {problems.length === 0 && tried.data?.sets[0] && <p className="font-bold">{readinessSentence(tried.data.sets[0])}</p>}
      </div>
      <div className="flex gap-3 mt-2">
        {canEdit && (
          <button
            className="btn btn-primary"
            disabled={busy || problems.length > 0 || !tried.data || settled !== text}
            onClick={() => void save()}
          >
            Keep this set
          </button>
        )}
        <button className="btn" onClick={() => onDone()}>
          Leave it
        </button>
        {canEdit && set && set.origin !== 'shipped' && (
          <button className="btn" onClick={() => void remove()}>
            {set.origin === 'own' ? 'Remove this set' : 'Back to the shipped set'}
          </button>
        )}
      </div>
      <div className="mt-5">{problems.length === 0 && tried.data?.sets.map((each) => <SetResult key={each.id} set={each} />)}</div>
    </section>
  );
}
