import { useEffect, useEffectEvent, useRef } from 'react';
import { useFormState, type FieldValues, type UseFormReturn } from 'react-hook-form';
import { useSession } from '../../api/session.js';
import { keepTyped, typedBefore } from '../typed.js';

/**
 * What is typed into a form is kept in the browser's tab a moment later, and there again after a reload, until it is sent or left.
 * @param secret fields that are kept nowhere
 */
export function useKeptForm<In extends FieldValues, Out>(
  form: UseFormReturn<In, unknown, Out>,
  name: string,
  secret: readonly string[] = [],
): { forget: () => void } {
  const key = `${useSession().data?.name ?? ''}.${name}`;
  // read while it is drawn: whether something is typed is followed only for whom it is read so
  const { isDirty } = useFormState({ control: form.control });
  const moved = useRef(isDirty);
  useEffect(() => {
    moved.current = isDirty;
  }, [isDirty]);
  const comeBack = useEffectEvent(() => {
    const before = typedBefore<In>(key);
    if (before) form.reset({ ...form.getValues(), ...before }, { keepDefaultValues: true });
  });
  const keep = useEffectEvent(() => {
    const open = Object.fromEntries(Object.entries(form.getValues()).filter(([field]) => !secret.includes(field)));
    keepTyped(key, moved.current ? open : null);
  });
  const { control, watch } = form;
  // the control is the same as long as the form is; an object around it may be another with each draw, and what is kept is older than what
  // is being typed
  useEffect(() => {
    comeBack();
    let timer: ReturnType<typeof setTimeout> | undefined;
    const { unsubscribe } = watch(() => {
      clearTimeout(timer);
      timer = setTimeout(keep, 250);
    });
    return () => {
      clearTimeout(timer);
      unsubscribe();
    };
  }, [control, watch, key]);
  return { forget: () => keepTyped(key, null) };
}
