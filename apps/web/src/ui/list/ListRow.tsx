import { Link } from 'react-router';
import type { ListColumn } from './columns.js';

/** How high a row is, px. */
export const rowHeight = 29;

/** A row of a list; in the hand a card. Its first cell is the link, over the whole of it. */
export function ListRow<T>({
  row,
  index,
  top,
  measure,
  columns,
  narrow,
  grid,
  to,
  choosing,
}: {
  row: T;
  index: number;
  /** Where it stands, px; null where it follows the one before. */
  top: number | null;
  measure: ((element: HTMLElement | null) => void) | undefined;
  columns: readonly ListColumn<T>[];
  narrow: boolean;
  grid: React.CSSProperties;
  to: ((row: T) => string) | undefined;
  choosing: { is: boolean; name: string; onTick: (isRange: boolean) => void } | null;
}) {
  const place = top === null ? 'relative' : 'absolute';
  return (
    <div
      ref={measure}
      data-index={index}
      role="row"
      aria-rowindex={index + 2}
      aria-selected={choosing?.is}
      tabIndex={to || choosing ? undefined : -1}
      {...(to ? {} : { 'data-row': true })}
      style={{ ...grid, ...(top === null ? {} : { transform: `translateY(${top}px)` }), ...(narrow ? {} : { height: rowHeight }) }}
      className={`row ${place} inset-x-0 border-b border-rule hover:bg-earth ${choosing?.is ? 'bg-tile-wash' : ''} ${narrow ? 'flex flex-wrap gap-x-3 gap-y-0.5 py-2' : 'items-center'}`}
    >
      {choosing && (
        <span role="cell" className="flex items-center relative z-10">
          <input
            type="checkbox"
            className="tick"
            data-tick
            aria-label={`Choose ${choosing.name}`}
            checked={choosing.is}
            onClick={(event) => choosing.onTick(event.shiftKey)}
            onChange={() => undefined}
          />
        </span>
      )}
      {columns.map((column, at) => (
        <span
          role="cell"
          key={column.id}
          className={`${narrow ? 'max-w-full' : 'truncate'} ${column.right && !narrow ? 'text-right' : ''} ${at > 0 ? 'cell' : narrow ? 'basis-[calc(100%-40px)]' : ''}`}
        >
          {at === 0 && to ? (
            <Link data-row to={to(row)} className="row-link">
              {column.cell(row)}
            </Link>
          ) : (
            <>
              {narrow && column.right && <span className="text-ink-3">{column.head} </span>}
              {column.cell(row)}
            </>
          )}
        </span>
      ))}
    </div>
  );
}
