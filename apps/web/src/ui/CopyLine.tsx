import { useId, useState } from 'react';

/** A line to be copied somewhere else, such as an address that is told this once. */
export function CopyLine({ label, value }: { label: string; value: string }) {
  const id = useId();
  const [copied, setCopied] = useState(false);
  return (
    <div className="mt-2">
      <label className="block text-ink-2" htmlFor={id}>
        {label}
      </label>
      <div className="flex gap-2 mt-1">
        <input id={id} readOnly className="field mono flex-1 min-w-0" value={value} onFocus={(event) => event.target.select()} />
        <button
          type="button"
          className="btn"
          aria-label={`Copy: ${label}`}
          onClick={() => {
            navigator.clipboard
              .writeText(value)
              .then(() => setCopied(true))
              .catch(() => document.getElementById(id)?.focus());
          }}
        >
          {copied ? 'Copied' : 'Copy'}
        </button>
      </div>
    </div>
  );
}
