import { ArrowDown, ArrowUp } from 'lucide-react';
import type { ListColumn } from './columns.js';

/** The head of a list: a box that chooses all, and the columns; in the hand one field that says what it is sorted by. */
export function ListHead<T>({
  columns,
  narrow,
  grid,
  sort,
  onSort,
  onToggle,
  choosing,
}: {
  columns: readonly ListColumn<T>[];
  narrow: boolean;
  grid: React.CSSProperties;
  sort: string | null;
  onSort: ((sort: string | null) => void) | undefined;
  /** Sorts by a column: up, down, and back to the order of before. */
  onToggle: (id: string) => void;
  /** How much is chosen, where rows can be. */
  choosing: { all: boolean; some: boolean; onAll: (all: boolean) => void } | null;
}) {
  return (
    <div
      role="row"
      aria-rowindex={1}
      style={grid}
      className={`head sticky top-0 bg-paper z-20 ${narrow ? 'flex gap-x-3 items-center py-1' : 'h-[28px] items-end pb-1'}`}
    >
      {choosing && (
        <span role="columnheader" className="flex items-center">
          <input
            type="checkbox"
            className="tick"
            aria-label="Choose all that are listed"
            checked={choosing.all}
            ref={(box) => {
              if (box) box.indeterminate = choosing.some && !choosing.all;
            }}
            onChange={() => choosing.onAll(!choosing.all)}
          />
        </span>
      )}
      {narrow ? (
        <SortedBy columns={columns} sort={sort} onSort={onSort} />
      ) : (
        columns.map((column) => (
          <Head
            key={column.id}
            column={column}
            sort={sort}
            onSort={onSort && column.sorts !== false ? () => onToggle(column.id) : undefined}
          />
        ))
      )}
    </div>
  );
}

/** In the hand there is no room for heads: one field says what the list is sorted by. */
function SortedBy<T>({
  columns,
  sort,
  onSort,
}: {
  columns: readonly ListColumn<T>[];
  sort: string | null;
  onSort: ((sort: string | null) => void) | undefined;
}) {
  if (!onSort) return <span role="columnheader">{columns.map(({ head }) => head).join(', ')}</span>;
  return (
    <span role="columnheader" className="flex-1 min-w-0">
      <label className="flex items-center gap-2">
        Sorted by
        <select className="field flex-1 min-w-0" value={sort ?? ''} onChange={({ target }) => onSort(target.value || null)}>
          <option value="">its usual order</option>
          {columns
            .filter(({ sorts }) => sorts !== false)
            .flatMap(({ id, head }) => [
              <option key={id} value={id}>
                {head}
              </option>,
              <option key={`-${id}`} value={`-${id}`}>
                {head}, from the end
              </option>,
            ])}
        </select>
      </label>
    </span>
  );
}

/** The head of a column; pressed, it sorts: up, down, and back to the order of before. */
function Head<T>({
  column: { id, head, right },
  sort,
  onSort,
}: {
  column: ListColumn<T>;
  sort: string | null;
  onSort: (() => void) | undefined;
}) {
  const way = sort === id ? 'ascending' : sort === `-${id}` ? 'descending' : undefined;
  return (
    <span role="columnheader" aria-sort={way} className={right ? 'text-right' : ''}>
      {onSort ? (
        <button
          type="button"
          className={`inline-flex items-center gap-0.5 min-h-[24px] hover:underline ${way ? 'font-bold text-ink' : ''}`}
          onClick={onSort}
        >
          {head}
          {way === 'ascending' && <ArrowUp size={12} aria-hidden />}
          {way === 'descending' && <ArrowDown size={12} aria-hidden />}
        </button>
      ) : (
        <span className="inline-flex items-center min-h-[24px]">{head}</span>
      )}
    </span>
  );
}
