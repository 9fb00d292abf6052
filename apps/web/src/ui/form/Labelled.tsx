import type { ComponentProps } from 'react';
import { Beneath } from './Beneath.js';

/** A label with its field, and beneath it the fault or what may stand there. */
export function Labelled({
  id,
  label,
  fault,
  hint,
  className = 'field w-[320px] max-w-full',
  ...field
}: ComponentProps<'input'> & {
  id: string;
  label: string;
  fault?: string | undefined;
  hint?: string | undefined;
}) {
  return (
    <>
      <label htmlFor={id} className="pt-1.5">
        {label}
      </label>
      <div>
        <input
          id={id}
          autoComplete="off"
          className={className}
          aria-invalid={fault !== undefined}
          aria-describedby={fault || hint ? `${id}-more` : undefined}
          {...field}
        />
        <Beneath id={`${id}-more`} fault={fault} hint={hint} />
      </div>
    </>
  );
}
