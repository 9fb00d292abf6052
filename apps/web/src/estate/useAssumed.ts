import type { Organisation } from '@underpass/contracts';
import { useEffect, useMemo } from 'react';
import { set, useForm, type Control, type FieldErrors } from 'react-hook-form';
import { useKeptForm } from '../ui/form/useKeptForm.js';
import { readAssumed, textsOfAssumed, type AssumedTexts } from './assumed.js';

/** What the tables of figures are given: where they are held, and whether they may be typed over. */
export interface AssumedForm {
  control: Control<AssumedTexts>;
  type: (key: string, text: string) => void;
  canEdit: boolean;
}

/** The figures of an organisation as a form; every fault stands at its field as it is typed, also where two figures cannot go together. */
export function useAssumed(organisation: Organisation | null) {
  const now = useMemo(() => textsOfAssumed(organisation), [organisation]);
  const form = useForm<AssumedTexts>({
    defaultValues: now,
    // somebody else's figures follow, what is typed here stays
    values: now,
    resetOptions: { keepDirtyValues: true },
    resolver: (texts) => {
      const errors: FieldErrors<AssumedTexts> = {};
      for (const [field, message] of Object.entries(readAssumed(organisation, texts).faults))
        set(errors, field, { type: 'value', message });
      return Object.keys(errors).length > 0 ? { values: {}, errors } : { values: texts, errors: {} };
    },
  });
  const { forget } = useKeptForm(form, 'assumed');
  useEffect(() => form.watch(() => void form.trigger()).unsubscribe, [form]);
  return {
    control: form.control,
    type: (key: string, text: string) => form.setValue(key, text, { shouldDirty: true }),
    isDirty: form.formState.isDirty,
    forget: () => {
      form.reset(now);
      forget();
    },
    saved: () => {
      form.reset(form.getValues());
      forget();
    },
  };
}
