import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef } from 'react';
import { Link } from 'react-router';

const rowHeight = 29;

/** A table of any length: only the rows that are seen are drawn, more are fetched when the end comes near. Each row is a link. */
export function LongList<T extends { id: string }>({
  rows,
  total,
  label,
  heads,
  rightAligned,
  grid,
  minWidth,
  height,
  to,
  cells,
  onNearEnd,
}: {
  rows: readonly T[];
  total: number;
  label: string;
  heads: readonly string[];
  /** Columns whose heads stand at the right. */
  rightAligned: (column: number) => boolean;
  /** Classes that make a row's columns. */
  grid: string;
  minWidth: string;
  height: string;
  to: (row: T) => string;
  cells: (row: T) => React.ReactNode;
  onNearEnd: () => void;
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
    if (last > rows.length - 60 && rows.length < total) onNearEnd();
  }, [last, rows.length, total, onNearEnd]);
  return (
    <div ref={frame} className={`overflow-auto ${height} min-h-[300px]`} tabIndex={-1}>
      <div role="table" aria-label={label} aria-rowcount={total} className={minWidth}>
        <div role="row" className={`${grid} head h-[26px] items-end pb-1 sticky top-0 bg-paper z-10`}>
          {heads.map((name, i) => (
            <span role="columnheader" key={name} className={rightAligned(i) ? 'text-right' : ''}>
              {name}
            </span>
          ))}
        </div>
        <div role="rowgroup" style={{ height: virtual.getTotalSize(), position: 'relative' }}>
          {items.map((item) => {
            const row = rows[item.index] as T;
            return (
              <Link
                data-row
                role="row"
                aria-rowindex={item.index + 1}
                key={row.id}
                to={to(row)}
                className={`${grid} absolute inset-x-0 h-[29px] items-center border-b border-rule hover:bg-earth`}
                style={{ transform: `translateY(${item.start}px)` }}
              >
                {cells(row)}
              </Link>
            );
          })}
        </div>
      </div>
    </div>
  );
}
