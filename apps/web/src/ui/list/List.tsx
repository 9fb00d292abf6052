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
import { useEffect, useMemo, useRef, useState } from 'react';
import type { ListColumn } from './columns.js';
import { ListHead } from './ListHead.js';
import { ListRow, rowHeight } from './ListRow.js';
import { useListKeys } from './useListKeys.js';
import { Later } from '../Later.js';
import { useNarrow } from '../useUnder.js';
import { usePrinting } from '../usePrinting.js';

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
  const [scrolled, setScrolled] = useState(false);
  const ids = useMemo(() => inOrder.map(({ id }) => id), [inOrder]);
  const virtual = useVirtualizer({
    count: inOrder.length,
    getScrollElement: () => frame.current,
    estimateSize: () => (narrow ? cardHeight : rowHeight),
    // rows beyond the edge are for who scrolls; until then they would only be drawn with every order
    overscan: scrolled ? 12 : 2,
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
  return (
    // a table scrolls within itself where it must; the keys go through its rows
    <div
      ref={frame}
      className={`overflow-auto ${height} min-h-[280px] print:!h-auto print:!max-h-none print:overflow-visible`}
      onKeyDown={keys.onKeyDown}
      onScroll={() => setScrolled(true)}
    >
      <div role="table" aria-label={label} aria-rowcount={total + 1} style={narrow ? {} : { minWidth }}>
        <ListHead
          columns={visible}
          narrow={narrow}
          grid={grid}
          sort={sort}
          onSort={onSort}
          onToggle={(id) => table.getColumn(id)?.toggleSorting()}
          choosing={
            onChosen
              ? {
                  all: ids.length > 0 && ids.every((id) => chosen?.has(id)),
                  some: ids.some((id) => chosen?.has(id)),
                  onAll: (all) => onChosen(new Set(all ? ids : [])),
                }
              : null
          }
        />
        <div role="rowgroup" style={printing ? {} : { height: virtual.getTotalSize(), position: 'relative' }}>
          {items.map((item) => {
            const row = inOrder[item.index];
            if (!row) return null;
            return (
              <ListRow
                key={row.id}
                row={row.original}
                index={item.index}
                top={printing ? null : item.start}
                measure={narrow && !printing ? virtual.measureElement : undefined}
                columns={visible}
                narrow={narrow}
                grid={grid}
                to={to}
                choosing={
                  onChosen
                    ? {
                        is: chosen?.has(row.id) ?? false,
                        name: nameOf(row.original),
                        onTick: (isRange) => keys.onTick(item.index, isRange),
                      }
                    : null
                }
              />
            );
          })}
        </div>
      </div>
      {printing && inOrder.length < total && (
        <p className="pt-2">
          The first {inOrder.length} of {total}. “Print” above the list fetches up to 2000 of them first; export the list to have more.
        </p>
      )}
    </div>
  );
}
