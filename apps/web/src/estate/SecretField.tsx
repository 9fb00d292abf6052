import { sealedMark, type ShownSecret } from '@underpass/contracts';
import { useState } from 'react';
import { useParams } from 'react-router';
import { call } from '../api/client.js';
import { useAction } from '../ui/useAction.js';

/** A secret: kept sealed, opened where somebody asks for it, which is logged; typed anew it is sealed when it is saved. */
export function SecretField({
  id,
  name,
  value,
  onChange,
  onBlur,
  disabled,
  invalid,
  describedBy,
}: {
  id: string;
  name: string;
  value: string;
  onChange: (value: unknown) => void;
  onBlur: () => void;
  disabled: boolean;
  invalid: boolean;
  describedBy: string;
}) {
  const { kind = '', id: object = '' } = useParams();
  const [shown, setShown] = useState<string | null>(null);
  const { busy, fault, run } = useAction();
  const [kept] = useState(value);
  const isSealed = value.startsWith(sealedMark);
  const show = () =>
    run(async () => {
      const path = `estate/${encodeURIComponent(kind)}/${encodeURIComponent(object)}/shown`;
      setShown((await call<ShownSecret>(path, 'POST', { field: name })).value);
    });
  return (
    <>
      <div className="flex flex-wrap items-center gap-2">
        <input
          id={id}
          disabled={disabled}
          aria-invalid={invalid}
          aria-describedby={describedBy}
          className="field block w-full max-w-[260px] [contain:strict] disabled:bg-earth"
          type="text"
          autoComplete="off"
          spellCheck={false}
          value={isSealed ? '' : value}
          placeholder={isSealed ? 'kept; type to replace it' : 'not known'}
          onBlur={onBlur}
          // what is typed and taken back leaves the one that is kept
          onChange={(event) => onChange(event.target.value || (kept.startsWith(sealedMark) ? kept : ''))}
        />
        {isSealed && !disabled && shown === null && (
          <button type="button" className="btn" disabled={busy} onClick={() => void show()}>
            Show it
          </button>
        )}
        {isSealed && !disabled && (
          <button type="button" className="btn" onClick={() => onChange('')}>
            Take it away
          </button>
        )}
      </div>
      <p role="status" className={fault ? 'text-brick' : ''}>
        {fault ?? (shown !== null && isSealed ? <span className="font-mono">{shown}</span> : null)}
      </p>
    </>
  );
}
