import { useQuery } from '@tanstack/react-query';
import type { Named, ObjectKind } from '@underpass/contracts';
import { useDeferredValue, useId, useState } from 'react';
import { estateQueries } from '../estate/queries.js';

/** Chooses one object of a kind by name or identifier: type, choose with the arrow keys, Enter takes it. */
export function Pick({
  kind,
  label,
  value,
  onPick,
  placeholder,
  id,
}: {
  kind: ObjectKind;
  label: string;
  value: Named | null;
  onPick: (object: Named | null) => void;
  placeholder?: string;
  id?: string;
}) {
  const [text, setText] = useState<string | null>(null);
  const [at, setAt] = useState(0);
  const list = useId();
  const wanted = useDeferredValue(text ?? '');
  const found = useQuery({ ...estateQueries.pick(kind, wanted), enabled: text !== null });
  const rows = text === null ? [] : (found.data?.rows ?? []);
  const take = (row: Named | undefined) => {
    if (!row) return;
    onPick({ id: row.id, name: row.name });
    setText(null);
  };
  return (
    <span className="relative inline-block w-full max-w-[280px]">
      <input
        id={id}
        role="combobox"
        aria-label={label}
        aria-expanded={rows.length > 0}
        aria-controls={list}
        aria-activedescendant={rows[at] ? `${list}-${at}` : undefined}
        autoComplete="off"
        className="field w-full"
        placeholder={placeholder ?? 'Type a name'}
        value={text ?? value?.name ?? ''}
        onFocus={(event) => event.target.select()}
        onBlur={() => setTimeout(() => setText(null), 150)}
        onChange={(event) => {
          setText(event.target.value);
          setAt(0);
          if (event.target.value === '') onPick(null);
        }}
        onKeyDown={(event) => {
          if (event.key === 'ArrowDown') {
            if (text === null) setText('');
            else setAt((i) => Math.min(i + 1, rows.length - 1));
          } else if (event.key === 'ArrowUp') setAt((i) => Math.max(i - 1, 0));
          else if (event.key === 'Enter' && text !== null) take(rows[at]);
          else if (event.key === 'Escape' && text !== null) setText(null);
          else return;
          event.preventDefault();
          event.stopPropagation();
        }}
      />
      {text !== null && (
        <ul
          id={list}
          role="listbox"
          aria-label={label}
          className="absolute left-0 right-0 top-[31px] bg-sheet border border-ink z-30 py-1 max-h-[240px] overflow-auto"
        >
          {rows.map((row, i) => (
            <li
              key={row.id}
              id={`${list}-${i}`}
              role="option"
              aria-selected={i === at}
              className={`px-2 py-0.5 cursor-pointer flex gap-2 ${i === at ? 'bg-earth' : ''}`}
              onMouseDown={(event) => event.preventDefault()}
              onClick={() => take(row)}
              onMouseEnter={() => setAt(i)}
            >
              <span className="flex-1 truncate">{row.name}</span>
              {row.name !== row.id && <span className="text-ink-3 mono">{row.id}</span>}
            </li>
          ))}
          {rows.length === 0 && <li className="px-2 py-0.5 text-ink-3">{found.isFetching ? '·····' : 'Nothing has this name'}</li>}
        </ul>
      )}
    </span>
  );
}
