import { useEffect } from 'react';
import { useForm, type FieldValues, type Path, type UseFormProps, type UseFormReturn } from 'react-hook-form';
import { useAction } from '../useAction.js';

interface Sent<In extends FieldValues, Out extends FieldValues> extends UseFormReturn<In, unknown, Out> {
  busy: boolean;
  /** What is wrong with the whole, where no field is to blame. */
  fault: string | null;
  faultOf: (field: Path<In>) => string | undefined;
  /** Sends it; emptied where it was taken and `empties` says so. */
  send: (empties?: boolean) => (event: React.FormEvent) => Promise<void>;
}

/**
 * A form whose content is sent: what its schema refuses stands at the field before, what the server refuses at the field afterwards.
 * What was typed stays until it was taken.
 */
export function useSent<In extends FieldValues, Out extends FieldValues = In>(
  options: UseFormProps<In, unknown, Out>,
  work: (values: Out) => ReturnType<Parameters<ReturnType<typeof useAction>['run']>[0]>,
): Sent<In, Out> {
  const form = useForm<In, unknown, Out>(options);
  const { busy, fault, faults, run } = useAction();
  useEffect(() => {
    for (const [field, message] of Object.entries(faults)) form.setError(field as Path<In>, { message });
  }, [faults, form]);
  const { errors } = form.formState;
  return {
    ...form,
    busy,
    fault: fault !== null && Object.keys(faults).length === 0 ? fault : null,
    faultOf: (field: Path<In>): string | undefined => {
      const message = (errors as Record<string, { message?: unknown } | undefined>)[field]?.message;
      return typeof message === 'string' ? message : undefined;
    },
    send: (empties = false) => {
      const submit = form.handleSubmit(async (values) => {
        const done = await run(() => work(values));
        if (done && empties) form.reset();
      });
      return (event) => {
        // what the server refused of something that is no field by its name would hold the form up for good
        form.clearErrors();
        return submit(event);
      };
    },
  };
}
