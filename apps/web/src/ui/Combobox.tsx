import { useEffect, useEffectEvent, useId, useState, type ComponentProps, type ReactNode } from 'react';

/** One field to choose from a list as it is typed: the arrow keys go through it, Enter takes, Esc leaves. */
export function Combobox<T>({
  label,
  text,
  open,
  rows,
  current,
  none,
  keyOf,
  row: tell,
  onText,
  onOpen,
  onTake,
  field,
  listClass,
  rowClass,
}: {
  label: string;
  /** What stands in the field. */
  text: string;
  open: boolean;
  rows: readonly T[];
  /** Whether the rows answer what stands in the field, and not what stood there before. */
  current: boolean;
  /** Told where no row fits. */
  none: string;
  keyOf: (row: T) => string;
  row: (row: T) => ReactNode;
  onText: (text: string) => void;
  onOpen: (open: boolean) => void;
  onTake: (row: T) => void;
  field: ComponentProps<'input'>;
  listClass: string;
  rowClass: string;
}) {
  const [at, setAt] = useState(0);
  const list = useId();
  // Enter before the rows have come takes the first of those that come, never the first of what was typed before
  const [eager, setEager] = useState(false);
  const take = (row: T | undefined) => {
    if (row !== undefined) onTake(row);
  };
  const arrived = useEffectEvent(() => {
    setEager(false);
    if (open) take(rows[0]);
  });
  useEffect(() => {
    if (eager && current) arrived();
  }, [eager, current]);
  const onKeyDown = (event: React.KeyboardEvent) => {
    if (event.key === 'ArrowDown') {
      if (open) setAt((i) => Math.min(i + 1, rows.length - 1));
      else onOpen(true);
    } else if (event.key === 'ArrowUp') setAt((i) => Math.max(i - 1, 0));
    else if (event.key === 'Enter' && open) {
      // a row gone to with the arrows was chosen, whatever it answers
      if (current || at > 0) take(rows[at]);
      else setEager(true);
    } else if (event.key === 'Escape' && open) onOpen(false);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <>
      <input
        role="combobox"
        aria-label={label}
        aria-expanded={open && rows.length > 0}
        aria-controls={list}
        aria-activedescendant={open && rows[at] ? `${list}-${at}` : undefined}
        autoComplete="off"
        value={text}
        onBlur={() => setTimeout(() => onOpen(false), 150)}
        onChange={(event) => {
          onText(event.target.value);
          setAt(0);
          setEager(false);
        }}
        onKeyDown={onKeyDown}
        {...field}
      />
      {open && (
        <ul id={list} role="listbox" aria-label={label} className={`absolute bg-sheet border border-ink py-1 overflow-auto ${listClass}`}>
          {rows.map((row, i) => (
            <li
              key={keyOf(row)}
              id={`${list}-${i}`}
              role="option"
              aria-selected={i === at}
              className={`cursor-pointer flex gap-2 ${rowClass} ${i === at ? 'bg-earth' : ''}`}
              onMouseDown={(event) => event.preventDefault()}
              onClick={() => take(row)}
              onMouseEnter={() => setAt(i)}
            >
              {tell(row)}
            </li>
          ))}
          {rows.length === 0 && <li className={`text-ink-3 ${rowClass}`}>{none}</li>}
        </ul>
      )}
    </>
  );
}
