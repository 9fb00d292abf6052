import {
  columnVisibilityFeature,
  createSortedRowModel,
  rowSelectionFeature,
  rowSortingFeature,
  sortFns,
  tableFeatures,
  useTable,
  type ColumnDef,
  type SortingState,
} from '@tanstack/react-table';
import { useVirtualizer } from '@tanstack/react-virtual';
import { ArrowDown, ArrowUp } from 'lucide-react';
import { useEffect, useMemo, useRef } from 'react';
import { Link } from 'react-router';
import type { ListColumn } from './columns.js';
import { useListKeys } from './useListKeys.js';
import { Later } from '../Later.js';
import { useNarrow } from '../useUnder.js';
import { usePrinting } from '../usePrinting.js';

const rowHeight = 29;
/** Rows in the hand are as high as what stands in them; about this. */
const cardHeight = 62;

const features = tableFeatures({
  columnVisibilityFeature,
  rowSortingFeature,
  rowSelectionFeature,
  sortedRowModel: createSortedRowModel(),
  sortFns,
});
type Features = typeof features;

export interface ListProps<T> {
  rows: readonly T[];
  idOf: (row: T) => string;
  /** How a row is called where it is read aloud. */
  nameOf: (row: T) => string;
  /** How many there are, where not all are fetched yet. */
  total?: number;
  label: string;
  columns: readonly ListColumn<T>[];
  /** Columns that are shown, by id; without it all. */
  shown?: readonly string[];
  sort?: string | null;
  /** Without it the order is as it comes. */
  onSort?: (sort: string | null) => void;
  /** Where the rows are sorted: by the server, or here where all are there. */
  sorted?: 'there' | 'here';
  /** Rows that are chosen; without it none can be. */
  chosen?: ReadonlySet<string>;
  onChosen?: (chosen: ReadonlySet<string>) => void;
  to?: (row: T) => string;
  onNearEnd?: () => void;
  minWidth: number;
  height: string;
}

/** A list of any length: sorted by its heads, rows chosen with the mouse or the keyboard, and only what is seen is drawn. */
export const List = <T extends object>(props: ListProps<T>) => (
  <Later height={props.height}>
    <Rows {...props} />
  </Later>
);

function Rows<T extends object>(props: ListProps<T>) {
  const { rows, idOf, nameOf, total = rows.length, label, columns, shown, sort = null, onSort, sorted = 'there' } = props;
  const { chosen, onChosen, to, onNearEnd, minWidth, height } = props;
  const frame = useRef<HTMLDivElement>(null);
  const narrow = useNarrow();
  const defs = useMemo(
    () =>
      columns.map((column): ColumnDef<Features, T> => ({
        id: column.id,
        header: column.head,
        accessorFn: (row: T) => column.sortBy?.(row) ?? column.text(row),
        enableSorting: column.sorts !== false,
        sortDescFirst: false,
      })),
    [columns],
  );
  const sorting: SortingState = useMemo(() => (sort ? [{ id: sort.replace(/^-/, ''), desc: sort.startsWith('-') }] : []), [sort]);
  const rowSelection = useMemo(() => Object.fromEntries([...(chosen ?? [])].map((id) => [id, true as const])), [chosen]);
  const columnVisibility = useMemo(() => Object.fromEntries(columns.map(({ id }) => [id, !shown || shown.includes(id)])), [columns, shown]);
  const table = useTable<Features, T>({
    features,
    columns: defs,
    data: rows as T[],
    getRowId: idOf,
    manualSorting: sorted === 'there',
    enableRowSelection: onChosen !== undefined,
    state: { sorting, rowSelection, columnVisibility },
    onSortingChange: (next) => {
      const [first] = typeof next === 'function' ? next(sorting) : next;
      onSort?.(first ? `${first.desc ? '-' : ''}${first.id}` : null);
    },
    onRowSelectionChange: (next) => {
      const now = typeof next === 'function' ? next(rowSelection) : next;
      onChosen?.(new Set(Object.keys(now)));
    },
  });
  const inOrder = table.getRowModel().rows;
  const ids = useMemo(() => inOrder.map(({ id }) => id), [inOrder]);
  const virtual = useVirtualizer({
    count: inOrder.length,
    getScrollElement: () => frame.current,
    estimateSize: () => (narrow ? cardHeight : rowHeight),
    overscan: 12,
  });
  // what was measured as a row is not as high as a card
  useEffect(() => virtual.measure(), [narrow, virtual]);
  const printing = usePrinting();
  // on paper every row that is there, one after the other
  const items = printing ? inOrder.map((_, index) => ({ index, start: 0 })) : virtual.getVirtualItems();
  const last = items.at(-1)?.index ?? 0;
  useEffect(() => {
    if (!printing && last > rows.length - 60 && rows.length < total) onNearEnd?.();
  }, [last, rows.length, total, onNearEnd, printing]);
  const keys = useListKeys({ ids, frame, scrollTo: (index) => virtual.scrollToIndex(index), chosen, onChosen });
  const visible = columns.filter(({ id }) => !shown || shown.includes(id));
  const tracks = `${onChosen ? '26px ' : ''}${visible.map(({ width }) => width).join(' ')}`;
  const grid = narrow ? {} : { display: 'grid', gridTemplateColumns: tracks, columnGap: 12 };
  const allChosen = ids.length > 0 && ids.every((id) => chosen?.has(id));
  return (
    // a table scrolls within itself where it must; the keys go through its rows
    <div ref={frame} className={`overflow-auto ${height} min-h-[280px]`} onKeyDown={keys.onKeyDown}>
      <div role="table" aria-label={label} aria-rowcount={total + 1} style={narrow ? {} : { minWidth }}>
        <div
          role="row"
          aria-rowindex={1}
          style={grid}
          className={`head sticky top-0 bg-paper z-20 ${narrow ? 'flex gap-x-3 items-center py-1' : 'h-[28px] items-end pb-1'}`}
        >
          {onChosen && (
            <span role="columnheader" className="flex items-center">
              <input
                type="checkbox"
                className="tick"
                aria-label="Choose all that are listed"
                checked={allChosen}
                ref={(box) => {
                  if (box) box.indeterminate = !allChosen && ids.some((id) => chosen?.has(id));
                }}
                onChange={() => onChosen(new Set(allChosen ? [] : ids))}
              />
            </span>
          )}
          {narrow && <SortedBy columns={visible} sort={sort} onSort={onSort} />}
          {!narrow &&
            visible.map((column) => (
              <Head
                key={column.id}
                column={column}
                sort={sort}
                onSort={onSort && column.sorts !== false ? () => table.getColumn(column.id)?.toggleSorting() : undefined}
              />
            ))}
        </div>
        <div role="rowgroup" style={printing ? {} : { height: virtual.getTotalSize(), position: 'relative' }}>
          {items.map((item) => {
            const row = inOrder[item.index];
            if (!row) return null;
            const isChosen = chosen?.has(row.id) ?? false;
            return (
              <div
                key={row.id}
                ref={narrow && !printing ? virtual.measureElement : undefined}
                data-index={item.index}
                role="row"
                aria-rowindex={item.index + 2}
                aria-selected={onChosen ? isChosen : undefined}
                tabIndex={to || onChosen ? undefined : -1}
                {...(to ? {} : { 'data-row': true })}
                style={{
                  ...grid,
                  ...(printing ? {} : { transform: `translateY(${item.start}px)` }),
                  ...(narrow ? {} : { height: rowHeight }),
                }}
                className={`row ${printing ? 'relative' : 'absolute'} inset-x-0 border-b border-rule hover:bg-earth ${isChosen ? 'bg-tile-wash' : ''} ${narrow ? 'flex flex-wrap gap-x-3 gap-y-0.5 py-2' : 'items-center'}`}
              >
                {onChosen && (
                  <span role="cell" className="flex items-center relative z-10">
                    <input
                      type="checkbox"
                      className="tick"
                      data-tick
                      aria-label={`Choose ${nameOf(row.original)}`}
                      checked={isChosen}
                      onClick={(event) => keys.onTick(item.index, event.shiftKey)}
                      onChange={() => undefined}
                    />
                  </span>
                )}
                {visible.map((column, at) => (
                  <span
                    role="cell"
                    key={column.id}
                    className={`${narrow ? 'max-w-full' : 'truncate'} ${column.right && !narrow ? 'text-right' : ''} ${at > 0 ? 'cell' : narrow ? 'basis-[calc(100%-40px)]' : ''}`}
                  >
                    {at === 0 && to ? (
                      <Link data-row to={to(row.original)} className="row-link">
                        {column.cell(row.original)}
                      </Link>
                    ) : (
                      <>
                        {narrow && column.right && <span className="text-ink-3">{column.head} </span>}
                        {column.cell(row.original)}
                      </>
                    )}
                  </span>
                ))}
              </div>
            );
          })}
        </div>
      </div>
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
        head
      )}
    </span>
  );
}
