import { useQuery, useQueryClient } from '@tanstack/react-query';
import type { RequirementSetView } from '@underpass/contracts';
import { useEffect, useState } from 'react';
import { call } from '../api/client.js';
import { useCanEdit } from '../api/session.js';
import { useNotice } from '../ui/Notice.js';
import { useUndo } from '../ui/useUndo.js';
import { readinessSentence, SetResult } from './SetResult.js';

interface Tried {
  problems: { line: number; field: string; problem: string }[];
  sets: RequirementSetView[];
}

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
  const client = useQueryClient();
  const notice = useNotice();
  const undo = useUndo();
  const canEdit = useCanEdit();
  const [text, setText] = useState(first);
  const [settled, setSettled] = useState(first);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(text), 350);
    return () => clearTimeout(timer);
  }, [text]);
  const tried = useQuery({
    queryKey: ['access', 'try', settled],
    queryFn: () => call<Tried>('access/requirements/try', 'POST', { text: settled }),
    placeholderData: (previous) => previous,
    retry: false,
  });
  const problems = tried.data?.problems ?? [];
  const save = async () => {
    try {
      const { ids } = await call<{ ids: string[] }>('access/requirements', 'PUT', { text, seen: set?.version ?? 0 });
      await client.invalidateQueries();
      notice({ text: `Kept: ${ids.join(', ')}.` });
      onDone(ids[0]);
    } catch (error) {
      notice({ text: (error as Error).message });
    }
  };
  const remove = async () => {
    if (!set) return;
    try {
      const { changeId } = await call<{ changeId: string }>(`access/requirements/${set.id}`, 'DELETE');
      await client.invalidateQueries();
      notice({
        text: set.origin === 'own' ? `${set.name} is removed.` : `${set.name} stands as shipped again.`,
        action: { label: 'Take it back', run: () => undo(changeId) },
      });
      onDone(set.origin === 'own' ? null : undefined);
    } catch (error) {
      notice({ text: (error as Error).message });
    }
  };
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
          <button className="btn btn-primary" disabled={problems.length > 0 || !tried.data || settled !== text} onClick={() => void save()}>
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
