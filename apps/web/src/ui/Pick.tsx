import { useQuery } from '@tanstack/react-query';
import type { Named, ObjectKind } from '@underpass/contracts';
import { useDeferredValue, useState } from 'react';
import { estateQueries } from '../estate/queries.js';
import { Combobox } from './Combobox.js';

/** Chooses one object of a kind by name or identifier. */
export function Pick({
  kind,
  label,
  value,
  onPick,
  placeholder = 'Type a name',
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
  const wanted = useDeferredValue(text ?? '');
  const found = useQuery({ ...estateQueries.pick(kind, wanted), enabled: text !== null });
  return (
    <span className="relative inline-block w-full max-w-[280px]">
      <Combobox
        label={label}
        text={text ?? value?.name ?? ''}
        open={text !== null}
        rows={text === null ? [] : (found.data?.rows ?? [])}
        current={wanted === (text ?? '') && !found.isPlaceholderData}
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
          if (next === '') onPick(null);
        }}
        onOpen={(open) => setText(open ? '' : null)}
        onTake={(row) => {
          onPick({ id: row.id, name: row.name });
          setText(null);
        }}
        field={{ id, className: 'field w-full', placeholder, onFocus: (event) => event.target.select() }}
        listClass="left-0 right-0 top-[31px] z-30 max-h-[240px]"
        rowClass="px-2 py-0.5"
      />
    </span>
  );
}
