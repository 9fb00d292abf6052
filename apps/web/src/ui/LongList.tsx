import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef } from 'react';
import { Link } from 'react-router';

const rowHeight = 29;

/** The head of a column: its name, where it stands, and whether it is only read aloud. */
export type Head = string | { name: string; right?: boolean; unseen?: boolean };

/** A table of any length: only the rows that are seen are drawn, more are fetched when the end comes near. A row may be a link as a whole. */
export function LongList<T extends { id: string }>({
  rows,
  total = rows.length,
  label,
  heads,
  grid,
  minWidth,
  height,
  to,
  cells,
  onNearEnd,
}: {
  rows: readonly T[];
  /** How many there are, where not all are fetched yet. */
  total?: number;
  label: string;
  heads: readonly Head[];
  /** Classes that make a row's columns. */
  grid: string;
  minWidth: string;
  height: string;
  to?: (row: T) => string;
  cells: (row: T) => React.ReactNode;
  onNearEnd?: () => void;
}) {
  const frame = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => frame.current,
    estimateSize: () => rowHeight,
    overscan: 12,
  });
  const items = virtual.getVirtualItems();
  const last = items.at(-1)?.index ?? 0;
  useEffect(() => {
    if (last > rows.length - 60 && rows.length < total) onNearEnd?.();
  }, [last, rows.length, total, onNearEnd]);
  return (
    <div ref={frame} className={`overflow-auto ${height} min-h-[300px]`} tabIndex={-1}>
      <div role="table" aria-label={label} aria-rowcount={total} className={minWidth}>
        <div role="row" className={`${grid} head h-[26px] items-end pb-1 sticky top-0 bg-paper z-10`}>
          {heads.map((head) => {
            const { name, right, unseen } = typeof head === 'string' ? { name: head } : head;
            return (
              <span role="columnheader" key={name} className={right ? 'text-right' : ''}>
                {unseen ? <span className="sr-only">{name}</span> : name}
              </span>
            );
          })}
        </div>
        <div role="rowgroup" style={{ height: virtual.getTotalSize(), position: 'relative' }}>
          {items.map((item) => {
            const row = rows[item.index] as T;
            const shared = {
              'data-row': true,
              role: 'row',
              'aria-rowindex': item.index + 1,
              className: `${grid} absolute inset-x-0 h-[29px] items-center border-b border-rule hover:bg-earth`,
              style: { transform: `translateY(${item.start}px)` },
            };
            return to ? (
              <Link key={row.id} to={to(row)} {...shared}>
                {cells(row)}
              </Link>
            ) : (
              <div key={row.id} tabIndex={-1} {...shared}>
                {cells(row)}
              </div>
            );
          })}
        </div>
      </div>
    </div>
  );
}
