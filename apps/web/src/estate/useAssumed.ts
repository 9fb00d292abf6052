import type { Organisation } from '@underpass/contracts';
import { useEffect, useMemo, useRef, useState } from 'react';
import { useForm, type Control } from 'react-hook-form';
import { useKeptForm } from '../ui/form/useKeptForm.js';
import { followed, isTyped, readAssumed, textsOfAssumed, type AssumedTexts } from './assumed.js';

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
  });
  /** Figures typed here that somebody else wrote meanwhile, as they have them. */
  const [theirs, setTheirs] = useState<Readonly<Record<string, string>>>({});
  /** What was followed last: what is typed is typed over these. */
  const before = useRef(now);
  const { forget } = useKeptForm(form, 'assumed', [], {
    base: () => before.current,
    isTyped: (values) => isTyped(values, before.current),
    back: (typed, base) => {
      const met = followed(typed, base, now);
      setTheirs(met.theirs);
      return met.texts;
    },
  });
  useEffect(() => {
    const met = followed(form.getValues(), before.current, now);
    before.current = now;
    setTheirs((old) => (Object.keys(met.theirs).length > 0 ? { ...old, ...met.theirs } : old));
  }, [form, now]);
  const shown = useRef<Readonly<Record<string, string>>>({});
  useEffect(() => {
    const look = () => {
      const { faults } = readAssumed(organisation, form.getValues(), now);
      // only where it is another than before: every figure there is would be drawn anew otherwise
      for (const field of Object.keys(shown.current)) if (!(field in faults)) form.clearErrors(field);
      for (const [field, message] of Object.entries(faults)) if (shown.current[field] !== message) form.setError(field, { message });
      shown.current = faults;
    };
    look();
    return form.watch(look).unsubscribe;
  }, [form, organisation, now]);
  return {
    control: form.control,
    now,
    type: (key: string, text: string) => form.setValue(key, text, { shouldDirty: true }),
    theirs,
    isDirty: form.formState.isDirty,
    forget: () => {
      form.reset(now);
      setTheirs({});
      forget();
    },
    saved: () => {
      form.reset(form.getValues());
      setTheirs({});
      forget();
    },
  };
}
