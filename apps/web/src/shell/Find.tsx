import { useQuery } from '@tanstack/react-query';
import { useDeferredValue, useState } from 'react';
import { useNavigate } from 'react-router';
import { estateQueries } from '../estate/queries.js';
import { Combobox } from '../ui/Combobox.js';

/** Finds any object by name or identifier, and opens it. */
export function Find({ input }: { input: React.RefObject<HTMLInputElement | null> }) {
  const [text, setText] = useState('');
  const [open, setOpen] = useState(false);
  const navigate = useNavigate();
  const wanted = useDeferredValue(text.trim());
  const found = useQuery(estateQueries.found(wanted));
  const leave = () => {
    setText('');
    setOpen(false);
    input.current?.blur();
  };
  return (
    <div className="self-center relative w-[230px] max-[719px]:w-auto max-[719px]:flex-1">
      <span
        className="flex items-center h-[28px] border-b border-rule-2 gap-2 focus-within:border-tile"
        onKeyDown={(event) => event.key === 'Escape' && leave()}
      >
        <Combobox
          label="Find a person, endpoint or place"
          text={text}
          open={open && wanted !== ''}
          rows={wanted ? (found.data ?? []) : []}
          current={wanted === text.trim() && !found.isPlaceholderData}
          none={found.isFetching ? '·····' : `Nothing is called “${wanted}”`}
          keyOf={(row) => `${row.kind}/${row.id}`}
          row={(row) => (
            <>
              <span className="flex-1 truncate font-semibold">{row.name}</span>
              <span className="text-ink-3">
                {row.kind}
                {row.detail ? `, ${row.detail}` : ''}
              </span>
            </>
          )}
          onText={(next) => {
            setText(next);
            setOpen(true);
          }}
          onOpen={(next) => (next ? setOpen(true) : leave())}
          onTake={(row) => {
            leave();
            void navigate(row.path);
          }}
          field={{
            ref: input,
            className: 'flex-1 min-w-0 bg-transparent outline-none placeholder:text-ink-3',
            placeholder: 'Find a person, endpoint, place',
            onFocus: () => setOpen(true),
            // what is typed stays for who comes back
            onBlur: () => setTimeout(() => setOpen(false), 150),
          }}
          listClass="right-0 top-[36px] w-[min(380px,calc(100vw-32px))] max-[719px]:fixed max-[719px]:left-4 max-[719px]:right-4 max-[719px]:top-[44px] max-[719px]:w-auto z-40 max-h-[60vh]"
          rowClass="px-3 py-1"
        />
        <kbd aria-hidden className="max-[719px]:hidden">
          /
        </kbd>
      </span>
    </div>
  );
}
