import { useId } from 'react';
import { useController } from 'react-hook-form';
import { Beneath } from '../ui/form/Beneath.js';
import type { AssumedForm } from './useAssumed.js';

/** A number that may be another here: its unit behind it, what is wrong beneath it, and a way back to what is shipped. */
export function FigureField({
  name,
  label,
  unit,
  form: { control, canEdit },
  onReset,
}: {
  name: string;
  label: string;
  unit: string;
  form: AssumedForm;
  onReset?: (() => void) | undefined;
}) {
  const id = useId();
  const { field, fieldState } = useController({ control, name });
  const fault = fieldState.error?.message;
  return (
    <span className="block">
      <span className="flex items-center gap-2">
        <input
          {...field}
          value={String(field.value)}
          // of a size of its own: what is typed is laid out and painted within, not the table anew with every letter
          className={`field block w-[76px] [contain:strict] text-right ${fault ? 'border-brick' : ''}`}
          aria-label={unit ? `${label}, ${unit}` : label}
          aria-invalid={fault ? true : undefined}
          aria-describedby={fault ? id : undefined}
          inputMode="decimal"
          readOnly={!canEdit}
        />
        {unit && <span className="text-ink-3 whitespace-nowrap">{unit}</span>}
        {onReset && (
          <button type="button" className="btn btn-small btn-quiet" aria-label={`${label}: as shipped`} onClick={onReset}>
            as shipped
          </button>
        )}
      </span>
      <Beneath id={id} fault={fault} />
    </span>
  );
}
