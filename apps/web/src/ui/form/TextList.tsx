import { Plus, X } from 'lucide-react';
import type { Control } from './control.js';

/** Texts in order, each in its own field. */
export function TextList({ id, label, value, onChange, disabled, invalid, describedBy }: Control<readonly string[]>) {
  return (
    <div role="group" aria-label={label} className="max-w-[520px] flex flex-col gap-1.5">
      {value.map((text, i) => (
        // in their order they are told apart by their place alone
        <span key={i} className="flex gap-1.5">
          <input
            id={i === 0 ? id : undefined}
            className="field flex-1 min-w-0 disabled:bg-earth"
            aria-label={`${label}, ${i + 1}`}
            aria-invalid={invalid}
            aria-describedby={describedBy}
            disabled={disabled}
            value={text}
            onChange={(event) => onChange(value.map((each, at) => (at === i ? event.target.value : each)))}
          />
          {!disabled && (
            <button
              type="button"
              className="btn btn-small !px-1.5"
              aria-label={`Take out ${text || `${label} ${i + 1}`}`}
              onClick={() => onChange(value.filter((_, at) => at !== i))}
            >
              <X size={14} aria-hidden />
            </button>
          )}
        </span>
      ))}
      {!disabled && (
        <button
          type="button"
          id={value.length ? undefined : id}
          className="btn btn-small self-start"
          aria-label={`Add one to ${label.toLowerCase()}`}
          onClick={() => onChange([...value, ''])}
        >
          <Plus size={14} aria-hidden className="mr-1" />
          Add one
        </button>
      )}
      {disabled && value.length === 0 && <span className="text-ink-3 py-1">none</span>}
    </div>
  );
}
