import { columnsOf, kindWords, objectSchemas, type ObjectKind, type Problem } from '@underpass/contracts';
import { useEffect, useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { ApiError, call } from '../api/client.js';
import { useAction } from '../ui/useAction.js';
import type { ConflictView } from './Conflict.js';
import { assemble, at } from './formTexts.js';
import { mergeTexts } from './merge.js';
import { settingValue } from './settingHelp.js';

/** An object as a form has it. */
export interface Shown {
  kind: ObjectKind;
  object: Record<string, unknown>;
  /** The version it was read at; none for a new one. */
  version: string | null;
  fresh: boolean;
}

type Texts = Record<string, string>;

/** The browser asks before a page is left on which something is typed. */
export function useLeaving(moved: boolean): void {
  useEffect(() => {
    if (!moved) return;
    const ask = (event: BeforeUnloadEvent) => event.preventDefault();
    addEventListener('beforeunload', ask);
    return () => removeEventListener('beforeunload', ask);
  }, [moved]);
}

/** What is typed over an object: saved over the version it rests on, beside what somebody else wrote meanwhile. */
export function useObjectForm({ kind, object, version, fresh }: Shown) {
  const columns = useMemo(() => columnsOf(objectSchemas[kind]), [kind]);
  const textsOf = (of: unknown): Texts => Object.fromEntries(columns.map((column) => [column.name, column.write(at(of, column.path))]));
  // eslint-disable-next-line react-hooks/exhaustive-deps -- textsOf is made of columns
  const first = useMemo(() => textsOf(object), [columns, object]);
  const [texts, setTexts] = useState<Texts>(first);
  const [base, setBase] = useState(first);
  // the version the texts rest on; somebody else's later one does not replace it while something is typed here
  const [basis, setBasis] = useState(version);
  const [conflict, setConflict] = useState<ConflictView | null>(null);
  const [chosen, setChosen] = useState<Record<string, 'mine' | 'theirs'>>({});
  const { busy, fault, faults: told, refuse, run } = useAction();
  const navigate = useNavigate();
  const one = kindWords[kind].one.toLowerCase();
  const pathOf = (id: string) => `estate/${kind}/${encodeURIComponent(id)}`;
  const moved = columns.some(({ name }) => texts[name] !== base[name]);
  useEffect(() => {
    if (moved) return;
    // somebody else changed it: what is not edited here follows
    setTexts(first);
    setBase(first);
    setBasis(version);
  }, [first, moved, version]);
  useLeaving(moved);

  /** Somebody else wrote meanwhile: their version beside what is typed, nothing of either lost. */
  const meet = ({ now, version: later, by, at: when }: NonNullable<Problem['conflict']>) => {
    if (now === null) {
      setBasis(null);
      return refuse(`${by} removed it meanwhile. What you typed is still here; save it to add it anew.`);
    }
    if (fresh) return refuse(`There is one with this id already, by ${by}. Give it another id.`);
    const theirs = textsOf(now);
    const names = columns.map(({ name }) => name);
    const merge = mergeTexts(names, base, texts, theirs);
    setConflict({ ...merge, by, at: when });
    setChosen({});
    setTexts(merge.texts);
    setBase(theirs);
    setBasis(later);
  };
  const save = async () => {
    const { object: next, faults } = assemble(columns, texts);
    if (!next.id) faults.id ??= 'must not be empty';
    if (Object.keys(faults).length) return refuse('Mend the fields below.', faults);
    if (kind === 'setting') next.value = settingValue(String(next.key), texts.value?.trim() ?? '', next.value);
    const id = String(next.id);
    await run(async () => {
      try {
        const conditions: Record<string, string> = basis === null ? { 'if-none-match': '*' } : { 'if-match': `"${basis}"` };
        const { changeId, version: written } = await call<{ changeId: string; version: string }>(pathOf(id), 'PUT', next, conditions);
        setBase(texts);
        setBasis(written);
        setConflict(null);
        setChosen({});
        if (fresh) void navigate(`/${pathOf(id)}`, { replace: true });
        return { text: `Saved ${one} ${id}. The crossings it touches are evaluated anew.`, changeId };
      } catch (error) {
        if (!(error instanceof ApiError) || !error.problem.conflict) throw error;
        return meet(error.problem.conflict);
      }
    });
  };
  const remove = () =>
    run(async () => {
      const { changeId } = await call<{ changeId: string }>(pathOf(String(object.id)), 'DELETE');
      void navigate(`/estate/${kind}`);
      return { text: `Removed ${one} ${String(object.id)}.`, changeId };
    });

  const columnOf = (field: string) => columns.find(({ name }) => field === name || field.startsWith(`${name}.`))?.name ?? field;
  const faults: Texts = Object.fromEntries(Object.entries(told).map(([field, text]) => [columnOf(field), text]));
  return {
    columns,
    texts,
    type: (field: string, text: string) => setTexts((now) => ({ ...now, [field]: text })),
    moved,
    busy,
    faults,
    message: fault === null ? null : `Nothing was saved. ${Object.keys(faults).length ? 'Mend the fields below.' : fault}`,
    conflict,
    chosen,
    /** Which of two texts for a field is kept. */
    choose: (field: string, which: 'mine' | 'theirs') => {
      const clash = conflict?.clashes.find((each) => each.field === field);
      if (!clash) return;
      setChosen((before) => ({ ...before, [field]: which }));
      setTexts((before) => ({ ...before, [field]: clash[which] }));
    },
    undecided: conflict?.clashes.some(({ field }) => chosen[field] === undefined) ?? false,
    reset: () => {
      setTexts(base);
      setConflict(null);
      setChosen({});
      refuse(null);
    },
    save,
    remove,
  };
}
