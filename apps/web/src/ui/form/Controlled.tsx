import type { ObjectKind } from '@underpass/contracts';
import { useId } from 'react';
import { useController, type FieldPath, type FieldValues, type Control } from 'react-hook-form';
import { Pick } from '../Pick.js';
import { Strip } from '../Strip.js';
import { Beneath } from './Beneath.js';

/** Where in a form something is held. */
interface Held<In extends FieldValues, Out> {
  control: Control<In, unknown, Out>;
  name: FieldPath<In>;
  label: string;
}

/** One object of a kind chosen by name: the label, the field, and beneath it what is wrong. */
export function PickRow<In extends FieldValues, Out>({
  control,
  name,
  label,
  saidAs = label,
  hint,
  kind,
  placeholder,
  onPicked,
}: Held<In, Out> & {
  /** What the field is called where it is read aloud, if its label alone would not say. */
  saidAs?: string;
  kind: ObjectKind;
  placeholder?: string;
  hint?: string;
  onPicked?: () => void;
}) {
  const id = useId();
  const { field, fieldState } = useController({ control, name });
  const fault = fieldState.error?.message;
  return (
    <>
      <label htmlFor={id}>{label}</label>
      <div>
        <Pick
          key={kind}
          id={id}
          kind={kind}
          label={saidAs}
          value={field.value}
          onPick={(named) => {
            field.onChange(named);
            onPicked?.();
          }}
          invalid={fault !== undefined}
          describedBy={`${id}-more`}
          {...(placeholder ? { placeholder } : {})}
        />
        <Beneath id={`${id}-more`} fault={fault} hint={hint} />
      </div>
    </>
  );
}

/** A choice of few, beside its label. */
export function StripRow<In extends FieldValues, Out, T extends string>({
  control,
  name,
  label,
  options,
  words,
  onChosen,
}: Held<In, Out> & { options: readonly T[]; words?: Partial<Record<T, string>>; onChosen?: () => void }) {
  const { field } = useController({ control, name });
  return (
    <>
      <span>{label}</span>
      <Strip
        label={label}
        options={options}
        value={field.value}
        onChange={(next) => {
          field.onChange(next);
          onChosen?.();
        }}
        {...(words ? { words } : {})}
      />
    </>
  );
}
