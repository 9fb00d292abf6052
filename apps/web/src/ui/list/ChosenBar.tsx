import { useNotice } from '../Notice.js';
import type { ListColumn } from './columns.js';

/** What can be done with the rows that are chosen. */
export function ChosenBar<T>({
  rows,
  chosen,
  idOf,
  columns,
  onClear,
  children,
}: {
  rows: readonly T[];
  chosen: ReadonlySet<string>;
  idOf: (row: T) => string;
  /** Columns that are shown, copied in their order. */
  columns: readonly ListColumn<T>[];
  onClear: () => void;
  children?: React.ReactNode;
}) {
  const notice = useNotice();
  if (chosen.size === 0) return null;
  const copy = () => {
    const lines = rows.filter((row) => chosen.has(idOf(row))).map((row) => columns.map(({ text }) => plain(text(row))).join('\t'));
    const table = [columns.map(({ head }) => head).join('\t'), ...lines].join('\n');
    navigator.clipboard.writeText(table).then(
      () => notice({ text: `${lines.length} row${lines.length === 1 ? '' : 's'} copied; a spreadsheet takes them as they are.` }),
      () => notice({ text: 'The browser did not allow it. Export the list instead.' }),
    );
  };
  return (
    <div role="group" aria-label="Chosen rows" className="flex flex-wrap gap-2.5 items-center bg-tile-wash px-3 py-1.5 mb-1">
      <b aria-live="polite">{chosen.size} chosen</b>
      {children}
      <button type="button" className="btn btn-small" onClick={copy}>
        Copy rows
      </button>
      <span className="flex-1" />
      <button type="button" className="btn btn-small" onClick={onClear}>
        Let go
      </button>
    </div>
  );
}

/** A cell that is pasted: no tabs and lines of its own, and no formula. */
const plain = (text: string): string => {
  const line = text.replace(/[\t\r\n]+/g, ' ');
  return /^[=+\-@]/.test(line) && !/^[-+]?[\d.]+$/.test(line) ? `'${line}` : line;
};
