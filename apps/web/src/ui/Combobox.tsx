import { useCombobox, type UseComboboxInterface } from 'downshift';
import { useEffect, useEffectEvent, useState, type ComponentProps, type ReactNode } from 'react';

/** Why a list of choices closes: left with the focus, or closed with Esc or a choice. */
export type Closing = 'left' | 'closed';

const types = (useCombobox as UseComboboxInterface).stateChangeTypes;

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
  onOpen: (open: boolean, why: Closing) => void;
  onTake: (row: T) => void;
  field: ComponentProps<'input'>;
  listClass: string;
  rowClass: string;
}) {
  // Enter before the rows have come takes the first of those that come, never the first of what was typed before
  const [eager, setEager] = useState(false);
  const take = (row: T | undefined) => {
    if (row !== undefined) onTake(row);
  };
  const { getInputProps, getMenuProps, getItemProps, highlightedIndex } = useCombobox<T>({
    items: rows as T[],
    itemToString: () => text,
    itemToKey: (row) => row && keyOf(row),
    inputValue: text,
    isOpen: open,
    selectedItem: null,
    ...(field.id === undefined ? {} : { inputId: field.id }),
    defaultHighlightedIndex: 0,
    // leaving takes nothing, and a click into what is typed does not close the list beneath it
    stateReducer: (state, { type, changes }) =>
      type === types.InputBlur
        ? { ...changes, selectedItem: null, inputValue: state.inputValue }
        : type === types.InputClick
          ? { ...changes, isOpen: true }
          : changes,
    onStateChange: ({ type, selectedItem, isOpen }) => {
      if (selectedItem) return take(selectedItem);
      if (isOpen !== undefined && isOpen !== open) onOpen(isOpen, type === types.InputBlur ? 'left' : 'closed');
    },
  });
  const arrived = useEffectEvent(() => {
    setEager(false);
    if (open) take(rows[0]);
  });
  useEffect(() => {
    if (eager && current) arrived();
  }, [eager, current]);
  const onKeyDown = (event: React.KeyboardEvent<HTMLInputElement>) => {
    const own = event.nativeEvent as KeyboardEvent & { preventDownshiftDefault?: boolean };
    if (event.key === 'Escape') {
      // what is typed is not emptied by it; the sheet around stays open while a list closes
      own.preventDownshiftDefault = true;
      if (!open) return;
      onOpen(false, 'closed');
    } else if (event.key === 'Enter' && open) {
      // a row gone to with the arrows was chosen, whatever it answers
      if (!current && highlightedIndex <= 0) {
        own.preventDownshiftDefault = true;
        setEager(true);
      }
    } else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <>
      <input
        {...field}
        {...getInputProps({
          'aria-label': label,
          'aria-labelledby': undefined,
          autoComplete: 'off',
          ...(field.ref ? { ref: field.ref } : {}),
          onFocus: field.onFocus,
          onBlur: field.onBlur,
          onKeyDown,
          // at once, and not when the list answers: the cursor would jump to the end
          onChange: (event) => {
            onText(event.currentTarget.value);
            setEager(false);
          },
        })}
        aria-expanded={open && rows.length > 0}
      />
      <ul
        {...getMenuProps({ 'aria-label': 'Choices', 'aria-labelledby': undefined })}
        className={`absolute bg-sheet border border-ink py-1 overflow-auto ${listClass} ${open ? '' : 'hidden'}`}
      >
        {open &&
          rows.map((row, index) => (
            <li
              key={keyOf(row)}
              {...getItemProps({ item: row, index })}
              className={`cursor-pointer flex gap-2 ${rowClass} ${index === highlightedIndex ? 'bg-earth' : ''}`}
            >
              {tell(row)}
            </li>
          ))}
        {open && rows.length === 0 && (
          <li role="option" aria-selected={false} aria-disabled className={`text-ink-3 ${rowClass}`}>
            {none}
          </li>
        )}
      </ul>
    </>
  );
}
