import { useQuery } from '@tanstack/react-query';
import { kindWords, type ObjectKind } from '@underpass/contracts';
import { X } from 'lucide-react';
import { estateQueries } from '../../estate/queries.js';
import { Pick } from '../Pick.js';
import type { Control } from './control.js';

const article = (word: string): string => `${/^[aeiou]/i.test(word) ? 'an' : 'a'} ${word}`;

/** Names of objects by id; what is not known yet or not at all is called by its id. */
function useNames(kind: ObjectKind, ids: readonly string[]): (id: string) => string {
  const { data } = useQuery(estateQueries.named(kind, ids));
  return (id) => data?.rows.find((row) => row.id === id)?.name ?? id;
}

/** One object, chosen by name. */
export function NamedChoice({
  id,
  label,
  value,
  onChange,
  disabled,
  invalid,
  describedBy,
  kind,
  empty,
}: Control<string> & { kind: ObjectKind; empty: string }) {
  const nameOf = useNames(kind, value ? [value] : []);
  return (
    <Pick
      id={id}
      kind={kind}
      label={label}
      placeholder={empty}
      disabled={disabled}
      invalid={invalid}
      describedBy={describedBy}
      wide
      value={value ? { id: value, name: nameOf(value) } : null}
      onPick={(named) => onChange(named?.id ?? '')}
      onLeft={onChange}
    />
  );
}

/** Several objects, each chosen by name. */
export function NamedChoices({
  id,
  label,
  value,
  onChange,
  disabled,
  invalid,
  describedBy,
  kind,
}: Control<readonly string[]> & { kind: ObjectKind }) {
  const nameOf = useNames(kind, value);
  const one = kindWords[kind].one.toLowerCase();
  return (
    <div role="group" aria-label={label} className="max-w-[520px]">
      {value.length > 0 && (
        <ul className="flex flex-wrap gap-1.5 pb-1.5">
          {value.map((each) => (
            <li key={each} className="inline-flex items-center border border-rule-2 rounded-[2px] bg-sheet pl-2">
              <span className="py-0.5">{nameOf(each)}</span>
              {nameOf(each) !== each && <span className="mono text-ink-3 pl-1.5">{each}</span>}
              <button
                type="button"
                disabled={disabled}
                aria-label={`Take ${nameOf(each)} out of ${label.toLowerCase()}`}
                className="min-w-[24px] min-h-[24px] inline-flex items-center justify-center hover:bg-earth"
                onClick={() => onChange(value.filter((other) => other !== each))}
              >
                <X size={13} aria-hidden />
              </button>
            </li>
          ))}
        </ul>
      )}
      {!disabled && (
        <Pick
          // anew after each that was added
          key={value.length}
          id={id}
          kind={kind}
          label={`Add to ${label.toLowerCase()}`}
          placeholder={`Add ${article(one)}`}
          invalid={invalid}
          describedBy={describedBy}
          wide
          value={null}
          onPick={(named) => named && !value.includes(named.id) && onChange([...value, named.id])}
        />
      )}
    </div>
  );
}
