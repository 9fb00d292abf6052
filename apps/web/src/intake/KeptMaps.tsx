import { useQuery } from '@tanstack/react-query';
import type { ListLook, TableMap } from '@underpass/contracts';
import { useState } from 'react';
import { call, orLookAgain } from '../api/client.js';
import { useAction } from '../ui/useAction.js';
import { fitted } from './mapping.js';
import { intakeQueries } from './queries.js';

const named = (names: readonly string[]): string => names.map((each) => `“${each}”`).join(', ');

/** Mappings that were kept by name: one is used again, or this one is kept. */
export function KeptMaps({
  look,
  map,
  onUse,
  onKept,
}: {
  look: ListLook;
  map: TableMap;
  onUse: (map: TableMap, name: string) => void;
  onKept: (name: string) => void;
}) {
  const maps = useQuery(intakeQueries.maps());
  const [name, setName] = useState('');
  const [told, setTold] = useState('');
  const { busy, fault, run } = useAction();
  const kept = maps.data ?? [];
  const use = (chosen: string) => {
    const found = kept.find((each) => each.name === chosen);
    if (!found) return;
    const { map: next, gone, fresh } = fitted(found.map, look);
    onUse(next, chosen);
    setName(chosen);
    setTold(
      [
        gone.length ? `Not in this list: ${named(gone)}. What they fill is left as it is.` : '',
        fresh.length ? `New since it was kept, and not taken: ${named(fresh)}.` : '',
      ].join(' '),
    );
  };
  const own = kept.filter((each) => each.map.kind === look.kind);
  const there = kept.find((each) => each.name.toLowerCase() === name.trim().toLowerCase());
  return (
    <div className="mt-3 flex flex-wrap gap-x-6 gap-y-2 items-center">
      {own.length > 0 && (
        <label className="flex gap-2 items-center">
          Mapped as
          <select className="field" value="" onChange={({ target }) => use(target.value)}>
            <option value="">Use one that was kept</option>
            {own.map((each) => (
              <option key={each.name}>{each.name}</option>
            ))}
          </select>
        </label>
      )}
      <form
        className="flex gap-2 items-center"
        onSubmit={(event) => {
          event.preventDefault();
          if (name.trim())
            void run(async () => {
              await orLookAgain(call('intake/maps', 'PUT', { name: name.trim(), map, was: there?.map ?? null }), maps.refetch);
              await maps.refetch();
              onKept(name.trim());
              return { text: `The mapping is kept as “${name.trim()}”.` };
            });
        }}
      >
        <label className="flex gap-2 items-center">
          Keep this mapping as
          <input className="field w-[180px]" maxLength={120} value={name} onChange={({ target }) => setName(target.value)} />
        </label>
        <button className="btn btn-small" disabled={busy || name.trim() === ''}>
          {there ? 'Replace' : 'Keep'}
        </button>
        {there && <span className="text-ink-3">in place of the one {there.by} kept</span>}
      </form>
      <span role="status" className="text-ink-2 empty:hidden">
        {told}
      </span>
      <span role="alert" className="text-brick empty:hidden">
        {fault}
      </span>
    </div>
  );
}
