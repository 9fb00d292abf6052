import { useEffect, useEffectEvent, useRef } from 'react';
import { useFormState, type FieldValues, type UseFormReturn } from 'react-hook-form';
import { useSession } from '../../api/session.js';
import { keepTyped, typedBefore } from '../typed.js';

/** What is typed into a form is kept in the browser's tab a moment later, and there again after a reload, until it is sent or left. */
export function useKeptForm<In extends FieldValues, Out>(form: UseFormReturn<In, unknown, Out>, name: string): { forget: () => void } {
  const key = `${useSession().data?.name ?? ''}.${name}`;
  // read while it is drawn: whether something is typed is followed only for whom it is read so
  const { isDirty } = useFormState({ control: form.control });
  const moved = useRef(isDirty);
  useEffect(() => {
    moved.current = isDirty;
  }, [isDirty]);
  const comeBack = useEffectEvent(() => {
    const before = typedBefore<In>(key);
    if (before) form.reset(before, { keepDefaultValues: true });
  });
  useEffect(() => {
    comeBack();
    let timer: ReturnType<typeof setTimeout> | undefined;
    const { unsubscribe } = form.watch(() => {
      clearTimeout(timer);
      timer = setTimeout(() => keepTyped(key, moved.current ? form.getValues() : null), 250);
    });
    return () => {
      clearTimeout(timer);
      unsubscribe();
    };
  }, [form, key]);
  return { forget: () => keepTyped(key, null) };
}
