import { useQuery } from '@tanstack/react-query';
import { factNames, schemaWords, type Applied, type RequirementSetView } from '@underpass/contracts';
import { catalogue } from '@underpass/core';
import { lazy, Suspense, useEffect, useMemo, useState } from 'react';
import { call, query } from '../api/client.js';
import { useCanEdit } from '../api/session.js';
import { Loading } from '../ui/States.js';
import { useAction } from '../ui/useAction.js';
import { Meanwhile } from '../ui/Meanwhile.js';
import { useOver } from '../ui/useOver.js';
import type { Word } from '../ui/YamlEditor.js';
import { accessQueries } from './queries.js';
import { readinessSentence, SetResult } from './SetResult.js';

const YamlEditor = lazy(() => import('../ui/YamlEditor.js'));
const noProblems: never[] = [];
/** What may stand in the text of a set: fields and values of its schema, and the facts a test may compare. */
const words: readonly Word[] = [
  ...schemaWords('requirement'),
  ...factNames().map((word) => ({ word, says: 'fact', type: 'value' as const })),
  ...Object.entries(catalogue).map(([key, { label }]) => ({ word: `setting.${key}`, says: label, type: 'value' as const })),
];

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
  const over = useOver(`requirement/${set?.id ?? 'new'}`, { value: set?.text ?? first, version: set?.version ?? 0 });
  const { value: text } = over;
  const [settled, setSettled] = useState(text);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(text), 350);
    return () => clearTimeout(timer);
  }, [text]);
  const tried = useQuery(accessQueries.tried(settled));
  const problems = tried.data?.problems ?? noProblems;
  const faults = useMemo(() => problems.map(({ line, field, problem }) => ({ line, text: `${field} ${problem}`.trim() })), [problems]);
  const save = () =>
    run(async () => {
      const { ids } = await call<{ ids: string[] }>('access/requirements', 'PUT', { text, seen: over.seen });
      over.leave();
      onDone(ids[0]);
      return { text: `Kept: ${ids.join(', ')}.` };
    });
  const remove = () =>
    run(async () => {
      if (!set) return;
      const applied = await call<Applied>(`access/requirements/${set.id}${query({ seen: over.seen })}`, 'DELETE');
      over.leave();
      onDone(set.origin === 'own' ? null : undefined);
      return { text: set.origin === 'own' ? `${set.name} is removed.` : `${set.name} stands as shipped again.`, applied };
    });
  return (
    <section aria-label="Set as text">
      <p className="text-ink-2">
        YAML. A condition compares a fact with is, isNot, oneOf, includes, atLeast, below, known or order; all, any and not put tests
        together. Ctrl+Space offers the words that may stand there.
      </p>
      <Meanwhile what="This set was" over={over}>
        <pre className="mono overflow-auto max-h-[320px] mt-1">{set?.text}</pre>
      </Meanwhile>
      <Suspense fallback={<Loading what="the editor" />}>
        <YamlEditor label="YAML of the set" value={text} onChange={over.change} faults={faults} words={words} describedBy="set-problems" />
      </Suspense>
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
            disabled={busy || over.isBehind || problems.length > 0 || !tried.data || settled !== text}
            onClick={() => void save()}
          >
            Keep this set
          </button>
        )}
        <button
          className="btn"
          onClick={() => {
            // left on purpose: it does not come back
            over.leave();
            onDone();
          }}
        >
          Leave it
        </button>
        {canEdit && set && set.origin !== 'shipped' && (
          <button className="btn" disabled={busy || over.isBehind} onClick={() => void remove()}>
            {set.origin === 'own' ? 'Remove this set' : 'Back to the shipped set'}
          </button>
        )}
      </div>
      <div className="mt-5">{problems.length === 0 && tried.data?.sets.map((each) => <SetResult key={each.id} set={each} />)}</div>
    </section>
  );
}
