import { useQuery } from '@tanstack/react-query';
import type { Named } from '@underpass/contracts';
import { useState } from 'react';
import { call, query } from '../api/client.js';
import { Pick } from '../ui/Pick.js';

/** Chooses a crossing: a person, then what they open on which endpoint. */
export function CrossingChoice({ name, id, onId }: { name: string; id: string; onId: (id: string) => void }) {
  const [person, setPerson] = useState<Named | null>(null);
  const rows = useQuery({
    queryKey: ['settings', 'crossings of', person?.id],
    queryFn: () => call<{ rows: { id: string }[] }>(`crossings${query({ search: person?.name ?? '', limit: 50 })}`),
    enabled: person !== null,
  });
  const own = (rows.data?.rows ?? []).filter((row) => row.id.startsWith(`${person?.id}~`));
  // of one there is nothing to choose
  if (person && id === '' && own.length === 1 && own[0]) onId(own[0].id);
  return (
    <div className="flex flex-wrap gap-3 items-center">
      <span className="text-ink-3 min-w-[70px]">{name}</span>
      <Pick
        kind="person"
        label={`${name}: person`}
        value={person}
        onPick={(picked) => {
          setPerson(picked);
          onId('');
        }}
      />
      {person && (
        <select
          className="field max-w-[260px]"
          aria-label={`${name}: what is opened`}
          value={id}
          onChange={({ target }) => onId(target.value)}
        >
          <option value="">choose what is opened</option>
          {own.map((row) => (
            <option key={row.id} value={row.id}>
              {row.id.split('~').slice(1).reverse().join(' on ')}
            </option>
          ))}
        </select>
      )}
      {!person && id && <span className="mono">{id.split('~').join(' ')}</span>}
    </div>
  );
}
