import type { ListOutcome } from '@underpass/contracts';
import { Told } from './Told.js';

/** Objects that are not in the list. They stay, unless somebody says of them that they go. */
export function MissingObjects({
  outcome: { applied, missing, missingTotal, removed },
  remove,
  onRemove,
}: {
  outcome: ListOutcome;
  remove: readonly string[];
  onRemove: (remove: readonly string[]) => void;
}) {
  const chosen = new Set(remove);
  const put = (ids: readonly string[], on: boolean) =>
    onRemove(on ? [...new Set([...remove, ...ids])] : remove.filter((id) => !ids.includes(id)));
  const all = missing.map(({ id }) => id);
  const what = applied
    ? removed > 0
      ? `of them ${removed} removed`
      : 'they stayed'
    : chosen.size > 0
      ? `of them ${chosen.size} go`
      : 'they stay';
  return (
    <Told head={`There, and not in this list, ${missingTotal}: ${what}`} open={chosen.size > 0 && !applied} show={missingTotal > 0}>
      {!applied && (
        <label className="flex gap-2 items-center font-semibold py-1">
          <input type="checkbox" checked={all.every((id) => chosen.has(id))} onChange={({ target }) => put(all, target.checked)} />
          {missingTotal > missing.length ? `Remove the first ${missing.length}` : 'Remove them all'}
        </label>
      )}
      <ul className="columns-[240px]">
        {missing.map(({ id, name }) => (
          <li key={id}>
            {applied ? (
              (name ?? id)
            ) : (
              <label className="flex gap-2 items-center">
                <input type="checkbox" checked={chosen.has(id)} onChange={({ target }) => put([id], target.checked)} />
                {name ?? id}
              </label>
            )}
          </li>
        ))}
      </ul>
      {missingTotal > missing.length && <p className="text-ink-3">and {missingTotal - missing.length} more</p>}
    </Told>
  );
}
