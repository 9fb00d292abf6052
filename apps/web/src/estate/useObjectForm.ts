import { zodResolver } from '@hookform/resolvers/zod';
import {
  fieldsOf,
  formOf,
  formSchemaOf,
  kindWords,
  partAt,
  secretFields,
  withPart,
  type Applied,
  type FormTexts,
  type FormValue,
  type ObjectKind,
  type Problem,
  type WrittenObject,
} from '@underpass/contracts';
import { useCallback, useEffect, useEffectEvent, useMemo, useState } from 'react';
import { useForm, type FieldValues, type UseFormReturn } from 'react-hook-form';
import { useNavigate } from 'react-router';
import { ApiError, call } from '../api/client.js';
import { useSession } from '../api/session.js';
import { keepTyped, typedBefore } from '../ui/typed.js';
import { useKeptSoon } from '../ui/useKeptSoon.js';
import { useAction } from '../ui/useAction.js';
import { useLeaving } from '../ui/useLeaving.js';
import type { ConflictView } from './Conflict.js';
import { mergeValues, type Values } from './merge.js';
import { finishSetting } from './settingHelp.js';

/** An object as a form has it. */
export interface Shown {
  kind: ObjectKind;
  object: Record<string, unknown>;
  /** The version it was read at; none for a new one. */
  version: string | null;
  fresh: boolean;
}

/** What is typed and not saved, as it is kept in the tab. */
interface Typed {
  version: string | null;
  base: FormTexts;
  texts: FormTexts;
}

/** How a form's content becomes an object of a kind. */
export const schemaOfForm = (kind: ObjectKind) => formSchemaOf(kind, kind === 'setting' ? finishSetting : undefined);

/** What is typed over an object: saved over the version it rests on, beside what somebody else wrote meanwhile. */
export function useObjectForm({ kind, object, version, fresh }: Shown) {
  const fields = useMemo(() => fieldsOf(kind), [kind]);
  const schema = useMemo(() => schemaOfForm(kind), [kind]);
  const first = useMemo(() => formOf(fields, object), [fields, object]);
  const form = useForm<FieldValues>({ defaultValues: first, resolver: zodResolver(schema) });
  const moved = form.formState.isDirty;
  // the version the texts rest on; somebody else's later one does not replace it while something is typed here
  const [basis, setBasis] = useState(version);
  const { conflict, chosen, choose, meetTheirs, settle } = useMeeting(fields, form);
  const { busy, fault, faults: told, refuse, run } = useAction();
  const one = kindWords[kind].one.toLowerCase();
  const pathOf = (id: string) => `estate/${kind}/${encodeURIComponent(id)}`;
  const user = useSession().data?.name ?? '';
  const key = `${user}.${kind}/${fresh ? 'new' : String(object.id)}`;

  // before what goes on from here: what is saved must not be asked about
  const leaving = useLeaving(moved, () => keepTyped(key, null));
  // where it goes on once nothing typed is left to ask about
  const [next, setNext] = useState<string | null>(null);
  const navigate = useNavigate();
  useEffect(() => {
    if (next !== null && !moved) void navigate(next, { replace: true });
  }, [next, moved, navigate]);
  useEffect(() => {
    if (moved) return;
    // somebody else changed it: what is not edited here follows
    form.reset(first);
    setBasis(version);
  }, [first, moved, version, form]);
  const comeBack = useEffectEvent(() => {
    const before = typedBefore<Typed>(key);
    if (!before) return;
    if (before.version === version) return form.reset(before.texts, { keepDefaultValues: true });
    form.reset(before.texts);
    meetTheirs({ base: before.base, theirs: first, by: 'Somebody', at: '' });
  });
  useEffect(() => comeBack(), [key]);
  useKeptTyped(form, kind, key, basis);
  useEffect(() => {
    for (const [field, message] of Object.entries(told)) form.setError(field, { message });
  }, [told, form]);

  /** Somebody else wrote meanwhile: their version beside what is typed, nothing of either lost. */
  const meet = ({ now, version: later, by, at }: NonNullable<Problem['conflict']>) => {
    if (now === null) {
      setBasis(null);
      return refuse(`${by} removed it meanwhile. What you typed is still here; save it to add it anew.`);
    }
    if (fresh) return refuse(`There is one with this id already, by ${by}. Give it another id.`);
    meetTheirs({ base: form.formState.defaultValues as FormTexts, theirs: formOf(fields, now ?? {}), by, at });
    setBasis(later);
  };
  const save = form.handleSubmit(
    async (object) => {
      const id = String(object.id);
      const typed = form.getValues();
      await run(async () => {
        try {
          const conditions: Record<string, string> = basis === null ? { 'if-none-match': '*' } : { 'if-match': `"${basis}"` };
          const written = signedAnew(kind, first, object as Record<string, unknown>);
          const applied = await call<WrittenObject>(pathOf(id), 'PUT', written, conditions);
          form.reset(typed);
          keepTyped(key, null);
          setBasis(applied.version);
          settle();
          if (fresh) setNext(`/${pathOf(id)}`);
          return { text: `Saved ${one} ${id}.`, applied };
        } catch (error) {
          if (!(error instanceof ApiError) || !error.problem.conflict) throw error;
          return meet(error.problem.conflict);
        }
      });
    },
    () => refuse('Mend the fields below.'),
  );
  const remove = () =>
    run(async () => {
      try {
        const conditions: Record<string, string> = basis === null ? {} : { 'if-match': `"${basis}"` };
        const applied = await call<Applied>(pathOf(String(object.id)), 'DELETE', undefined, conditions);
        form.reset(form.getValues());
        keepTyped(key, null);
        setNext(`/estate/${kind}`);
        return { text: `Removed ${one} ${String(object.id)}.`, applied };
      } catch (error) {
        if (!(error instanceof ApiError) || !error.problem.conflict) throw error;
        return meet(error.problem.conflict);
      }
    });
  const mend = fault !== null && (fault === 'Mend the fields below.' || Object.keys(told).length > 0);
  return {
    form,
    fields,
    schema,
    moved,
    busy,
    message: fault === null ? null : `Nothing was saved. ${mend ? 'Mend the fields below.' : fault}`,
    conflict,
    chosen,
    choose,
    undecided: conflict?.clashes.some(({ field }) => chosen[field] === undefined) ?? false,
    reset: () => {
      form.reset();
      keepTyped(key, null);
      settle();
      refuse(null);
    },
    leaving,
    save,
    remove,
  };
}

/** Two versions of what a form holds: which fields clash, and which of two is kept. */
function useMeeting(fields: ReturnType<typeof fieldsOf>, form: UseFormReturn<FieldValues>) {
  const [conflict, setConflict] = useState<ConflictView | null>(null);
  const [chosen, setChosen] = useState<Record<string, 'mine' | 'theirs'>>({});
  const flat = (texts: object): Values => Object.fromEntries(fields.map(({ name, path }) => [name, partAt(texts, path) as FormValue]));
  const pathOf = (name: string) => fields.find((field) => field.name === name)?.path ?? [name];
  return {
    conflict,
    chosen,
    meetTheirs: ({ base, theirs, by, at }: { base: FormTexts; theirs: FormTexts; by: string; at: string }) => {
      const merge = mergeValues(
        fields.map(({ name }) => name),
        flat(base),
        flat(form.getValues()),
        flat(theirs),
      );
      setConflict({ ...merge, by, at });
      setChosen({});
      const texts = Object.entries(merge.values).reduce<FormTexts>((all, [name, value]) => withPart(all, pathOf(name), value), {});
      form.reset(theirs);
      form.reset(texts, { keepDefaultValues: true });
    },
    /** Which of two texts for a field is kept. */
    choose: (field: string, which: 'mine' | 'theirs') => {
      const clash = conflict?.clashes.find((each) => each.field === field);
      if (!clash) return;
      setChosen((before) => ({ ...before, [field]: which }));
      form.setValue(field, clash[which], { shouldDirty: true });
    },
    settle: useCallback(() => {
      setConflict(null);
      setChosen({});
    }, []),
  };
}

/** A secret that is being typed is kept nowhere: in its place stands the one from before. */
const withoutSecrets = (kind: ObjectKind, texts: FormTexts, base: FormTexts): FormTexts =>
  secretFields[kind].reduce<FormTexts>((kept, field) => withPart(kept, field.split('.'), partAt(base, field.split('.'))), texts);

/** The text of a file that is written anew is signed anew; a sum that was typed with it stays. */
function signedAnew(kind: ObjectKind, before: FormTexts, object: Record<string, unknown>): object {
  if (kind !== 'configFile' || object.text === before.text || object.sha256 !== before.sha256) return object;
  const { sha256: _, ...rest } = object;
  return rest;
}

/** What is typed is kept in the tab a moment after it was typed, until it is saved or left. */
function useKeptTyped(form: UseFormReturn<FieldValues>, kind: ObjectKind, key: string, basis: string | null): void {
  const { soon } = useKeptSoon(() => {
    const { isDirty, defaultValues: base } = form.formState;
    const texts = () => withoutSecrets(kind, form.getValues(), base as FormTexts);
    keepTyped(key, isDirty ? { version: basis, base, texts: texts() } : null);
  });
  useEffect(() => form.watch(() => soon()).unsubscribe, [form, soon]);
}
