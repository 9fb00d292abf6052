import { useQuery } from '@tanstack/react-query';
import { kindWords, type Named, type ObjectKind } from '@underpass/contracts';
import { useDeferredValue, useEffect, useEffectEvent, useState } from 'react';
import { estateQueries } from '../estate/queries.js';
import { Combobox } from './Combobox.js';

/** Chooses one object of a kind by name or identifier. What fits nothing stays as it was typed, and says so. */
export function Pick({
  kind,
  label,
  value,
  onPick,
  onLeft,
  placeholder = 'Type a name',
  id,
  disabled,
  invalid,
  describedBy,
  wide = false,
}: {
  kind: ObjectKind;
  label: string;
  value: Named | null;
  onPick: (object: Named | null) => void;
  /** Left with a text that nothing was chosen for; where an object is called by it in full, that is chosen a moment later. */
  onLeft?: (text: string) => void;
  placeholder?: string;
  id?: string;
  disabled?: boolean;
  invalid?: boolean;
  describedBy?: string;
  wide?: boolean;
}) {
  const [text, setText] = useState<string | null>(null);
  const [open, setOpen] = useState(false);
  // left while the names that fit were still on their way
  const [left, setLeft] = useState(false);
  const wanted = useDeferredValue(text ?? '');
  const found = useQuery({ ...estateQueries.pick(kind, wanted), enabled: open || left });
  const rows = found.data?.rows ?? [];
  const current = wanted === (text ?? '') && found.isSuccess && !found.isPlaceholderData;
  const astray = !open && !left && text !== null && text !== '';
  const take = (row: Named) => {
    onPick({ id: row.id, name: row.name });
    setText(null);
    setOpen(false);
  };
  /** Left without choosing: what was typed in full is taken, anything else stays where it is. */
  const settle = useEffectEvent(() => {
    setLeft(false);
    const typed = (text ?? '').trim().toLowerCase();
    const same = rows.filter((row) => row.id.toLowerCase() === typed || row.name.toLowerCase() === typed);
    if (same.length === 1) take(same[0] as Named);
  });
  useEffect(() => {
    if (left && current) settle();
  }, [left, current]);
  const leave = () => {
    setOpen(false);
    if (!text) return setText(null);
    onLeft?.(text.trim());
    setLeft(true);
  };
  return (
    <span className={`relative inline-block w-full ${wide ? 'max-w-[520px]' : 'max-w-[280px]'}`}>
      <Combobox
        label={label}
        text={text ?? value?.name ?? ''}
        open={open}
        rows={open ? rows : []}
        current={current}
        none={found.isFetching ? '·····' : 'Nothing has this name'}
        keyOf={(row) => row.id}
        row={(row) => (
          <>
            <span className="flex-1 truncate">{row.name}</span>
            {row.name !== row.id && <span className="text-ink-3 mono">{row.id}</span>}
          </>
        )}
        onText={(next) => {
          setText(next);
          setOpen(true);
          setLeft(false);
          if (next === '') onPick(null);
        }}
        onOpen={(next, why) => {
          if (next) {
            // what went astray is gone on with; what was chosen is chosen anew from all there are
            setText((old) => old ?? '');
            setOpen(true);
          } else if (why === 'left') leave();
          else {
            setOpen(false);
            setText(null);
          }
        }}
        onTake={take}
        field={{
          id,
          disabled,
          className: 'field w-full disabled:bg-earth',
          placeholder: value && open ? value.name : placeholder,
          onFocus: (event) => event.target.select(),
          'aria-invalid': invalid || astray || undefined,
          'aria-describedby': describedBy,
        }}
        listClass="left-0 right-0 top-[31px] z-30 max-h-[240px]"
        rowClass="px-2 py-0.5"
      />
      {astray && !invalid && (
        <span role="alert" className="block text-brick">
          No {kindWords[kind].one.toLowerCase()} is called “{text.trim()}”. Choose one from the list.
        </span>
      )}
    </span>
  );
}
