import { useQuery } from '@tanstack/react-query';
import type { FoundObject } from '@underpass/contracts';
import { useDeferredValue, useId, useState } from 'react';
import { useNavigate } from 'react-router';
import { estateQueries } from '../estate/queries.js';

/** Finds any object by name or identifier: arrow keys choose, Enter opens, Esc leaves. */
export function Find({ input }: { input: React.RefObject<HTMLInputElement | null> }) {
  const [text, setText] = useState('');
  const [open, setOpen] = useState(false);
  const [at, setAt] = useState(0);
  const list = useId();
  const navigate = useNavigate();
  const wanted = useDeferredValue(text.trim());
  const found = useQuery(estateQueries.found(wanted));
  const rows = wanted ? (found.data ?? []) : [];
  const go = (row: FoundObject | undefined) => {
    if (!row) return;
    setOpen(false);
    setText('');
    input.current?.blur();
    void navigate(row.path);
  };
  return (
    <div className="self-center relative w-[230px]">
      <label className="flex items-center h-[28px] border-b border-rule-2 gap-2 focus-within:border-tile">
        <span className="sr-only">Find a person, endpoint or place</span>
        <input
          ref={input}
          className="flex-1 min-w-0 bg-transparent outline-none placeholder:text-ink-3"
          placeholder="Find a person, endpoint, place"
          role="combobox"
          aria-expanded={open && rows.length > 0}
          aria-controls={list}
          aria-activedescendant={open && rows[at] ? `${list}-${at}` : undefined}
          value={text}
          onFocus={() => setOpen(true)}
          onBlur={() => setTimeout(() => setOpen(false), 150)}
          onChange={(event) => {
            setText(event.target.value);
            setAt(0);
            setOpen(true);
          }}
          onKeyDown={(event) => {
            if (event.key === 'ArrowDown') setAt((i) => Math.min(i + 1, rows.length - 1));
            else if (event.key === 'ArrowUp') setAt((i) => Math.max(i - 1, 0));
            else if (event.key === 'Enter') go(rows[at]);
            else if (event.key === 'Escape') {
              setText('');
              input.current?.blur();
            } else return;
            event.preventDefault();
          }}
        />
        <kbd aria-hidden>/</kbd>
      </label>
      {open && wanted && (
        <ul
          id={list}
          role="listbox"
          aria-label="Found"
          className="absolute right-0 top-[36px] w-[340px] bg-sheet border border-ink z-40 py-1 max-h-[60vh] overflow-auto"
        >
          {rows.map((row, i) => (
            <li
              key={`${row.kind}/${row.id}`}
              id={`${list}-${i}`}
              role="option"
              aria-selected={i === at}
              className={`px-3 py-1 cursor-pointer flex gap-2 ${i === at ? 'bg-earth' : ''}`}
              onMouseDown={(event) => event.preventDefault()}
              onClick={() => go(row)}
              onMouseEnter={() => setAt(i)}
            >
              <span className="flex-1 truncate font-semibold">{row.name}</span>
              <span className="text-ink-3">
                {row.kind}
                {row.detail ? `, ${row.detail}` : ''}
              </span>
            </li>
          ))}
          {rows.length === 0 && <li className="px-3 py-1 text-ink-3">{found.isFetching ? '·····' : `Nothing is called “${wanted}”`}</li>}
        </ul>
      )}
    </div>
  );
}
