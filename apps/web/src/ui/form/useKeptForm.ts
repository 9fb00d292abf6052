import { useEffect, useEffectEvent, useRef } from 'react';
import { useFormState, type FieldValues, type UseFormReturn } from 'react-hook-form';
import { useSession } from '../../api/session.js';
import { keepTyped, typedBefore } from '../typed.js';
import { useKeptSoon } from '../useKeptSoon.js';

/**
 * What is typed into a form is kept in the browser's tab a moment later, and there again after a reload, until it is sent or left.
 * @param secret fields that are kept nowhere
 * @param follow of a form over something that others write too: as it stands, whether something else is typed, and what that comes to on
 * what stands when it comes back. The form itself takes all for untouched for a moment whenever theirs arrive.
 */
export function useKeptForm<In extends FieldValues, Out>(
  form: UseFormReturn<In, unknown, Out>,
  name: string,
  secret: readonly string[] = [],
  follow?: { base: () => In; isTyped: (values: In) => boolean; back: (typed: In, base: In) => In },
): { forget: () => void } {
  const key = `${useSession().data?.name ?? ''}.${name}`;
  // read while it is drawn: whether something is typed is followed only for whom it is read so
  const { isDirty } = useFormState({ control: form.control });
  const moved = useRef(isDirty);
  useEffect(() => {
    moved.current = isDirty;
  }, [isDirty]);
  const comeBack = useEffectEvent(() => {
    const before = typedBefore<In & { typed?: In; base?: In }>(key);
    if (!before) return;
    if (!follow) return form.reset({ ...form.getValues(), ...before }, { keepDefaultValues: true });
    if (before.typed && before.base) form.reset(follow.back(before.typed, before.base), { keepDefaultValues: true });
  });
  const { soon, drop } = useKeptSoon(() => {
    const open = Object.fromEntries(Object.entries(form.getValues()).filter(([field]) => !secret.includes(field)));
    const isTyped = follow ? follow.isTyped(form.getValues()) : moved.current;
    const kept = follow ? { typed: open, base: follow.base() } : open;
    keepTyped(key, isTyped ? kept : null);
  });
  const { control, watch } = form;
  // the control is the same as long as the form is; an object around it may be another with each draw, and what is kept is older than what
  // is being typed
  useEffect(() => {
    comeBack();
    return watch(() => soon()).unsubscribe;
  }, [control, watch, key, soon]);
  return {
    forget: () => {
      drop();
      keepTyped(key, null);
    },
  };
}
