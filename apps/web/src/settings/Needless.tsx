import { useQuery } from '@tanstack/react-query';
import type { Change } from '@underpass/contracts';
import { definitionOf } from '@underpass/core';
import { Failed, Loading } from '../ui/States.js';
import { settingsQueries } from './queries.js';
import { valueText } from './valueWords.js';

/** Entries that may all go without anybody's value becoming another. */
export function Needless({ onDraft, canEdit, busy }: { onDraft: (name: string, change: Change) => void; canEdit: boolean; busy: boolean }) {
  const { data, isPending, isError, error, refetch } = useQuery(settingsQueries.needless());
  return (
    <section aria-labelledby="needless">
      <h2 id="needless">Entries that may go</h2>
      {isPending && <Loading what="the entries" />}
      {isError && <Failed what="The entries" error={error} onRetry={() => void refetch()} />}
      {data && (
        <>
          <p className="text-ink-2">
            {data.entries.length === 0
              ? `Each of the ${data.of} entries decides something for somebody.`
              : `Without these ${data.entries.length} of ${data.of} everybody’s settings stay what they are.`}
          </p>
          <ul className="mt-1">
            {data.entries.slice(0, 12).map(({ entry, where, because }) => (
              <li key={entry.id} className="border-b border-rule py-1">
                <b className="font-semibold">{definitionOf(entry.key)?.label ?? entry.key}</b> {valueText(entry.key, entry.value)}
                <span className="block text-[12.5px] text-ink-2">
                  {where}: {because}
                </span>
              </li>
            ))}
            {data.entries.length > 12 && <li className="text-ink-3 py-1">and {data.entries.length - 12} more</li>}
          </ul>
          {canEdit && data.entries.length > 0 && (
            <button
              className="btn mt-2"
              disabled={busy}
              onClick={() =>
                onDraft('Entries that do nothing', {
                  patches: data.entries.map(({ entry }) => ({ do: 'remove' as const, kind: 'setting' as const, id: entry.id })),
                  hypotheses: [],
                })
              }
            >
              Make a draft without them
            </button>
          )}
        </>
      )}
    </section>
  );
}
