import Papa from 'papaparse';
import { readText } from './encoding.js';
import { headerAt, usualWidth, widthOf } from './header.js';
import { SheetError, type Sheet, type SheetNote, type SheetRow } from './sheet.js';

/** What stands between cells, in the order in which one is taken where two fit as well. */
const delimiters = [';', '\t', ',', '|'] as const;
/** Characters and rows from the top by which the delimiter is found. */
const looked = 60_000;
const rowsLooked = 200;
/** More columns than any list of things has. */
export const mostColumns = 500;
/** Rows that are read; more than any estate has. */
export const mostRows = 300_000;

const parse = (text: string, delimiter: string) => Papa.parse<string[]>(text, { delimiter, skipEmptyLines: false });

/** A line at the top that names the delimiter, as some programs write. */
const naming = /^sep=(.)\r?\n/i;

/** The delimiter by which most rows have the same number of cells, more than one. */
function delimiterOf(text: string, isKnown: (text: string) => boolean): string {
  // whole lines alone: the last one may be cut
  const cut = text.length > looked ? text.slice(0, text.lastIndexOf('\n', looked) + 1) || text.slice(0, looked) : text;
  let best: { delimiter: string; score: number } = { delimiter: ',', score: 0 };
  for (const delimiter of delimiters) {
    const rows = parse(cut, delimiter)
      .data.slice(0, rowsLooked)
      .filter((cells) => cells.some((cell) => cell.trim()))
      .map((cells) => ({ cells }));
    const width = usualWidth(rows);
    if (width < 2) continue;
    const same = rows.filter(({ cells }) => widthOf(cells) === width).length / rows.length;
    // a decimal comma makes cells too, but the names of the columns have none; the last column may be empty in every row
    const at = headerAt(
      rows.map(({ cells }, i) => ({ row: i, cells })),
      isKnown,
    );
    const head = at === null ? [] : (rows[at]?.cells ?? []);
    const score = same + (widthOf(head) >= width ? 1 : 0) + (head.some(isKnown) ? 1 : 0) + Math.min(width, 20) / 100;
    if (score > best.score + 1e-9) best = { delimiter, score };
  }
  return best.delimiter;
}

/** Rows of the text, each with the line it begins in: a quoted cell may go over several. */
function linesOf(data: readonly string[][], firstLine: number): SheetRow[] {
  let line = firstLine;
  return data.map((cells) => {
    const row = line;
    line += 1 + cells.reduce((sum, cell) => sum + (cell.match(/\r\n|\n|\r/g)?.length ?? 0), 0);
    return { row, cells };
  });
}

/** What is known of a file before it is read. */
export interface DelimitedOptions {
  delimiter?: string;
  /** Line that names the columns, counted from 1; 0 where none does. */
  headerRow?: number;
  isKnown?: (text: string) => boolean;
}

/**
 * Reads rows of text: its encoding, delimiter and the row that names the columns are found by what it holds, and told.
 * @param bytes of the file, or the cells as they were pasted
 * @throws SheetError of what cannot be read as rows
 * @source quoting: RFC 4180; the delimiter and the head: common practice, no source
 */
export function readDelimited(bytes: Uint8Array | string, options: DelimitedOptions = {}): Sheet {
  const { encoding, text: whole } = typeof bytes === 'string' ? { encoding: 'utf-8' as const, text: bytes } : readText(bytes);
  const plain = whole.replace(/^\uFEFF/, '');
  const named = naming.exec(plain);
  const text = named ? plain.slice(named[0].length) : plain;
  if (text.includes('\0')) throw new SheetError('holds characters that no text has; save it as CSV, or as a workbook', 1);
  const delimiter = options.delimiter ?? named?.[1] ?? delimiterOf(text, options.isKnown ?? (() => false));
  const { data, errors } = parse(text, delimiter);
  if (data.length > mostRows) throw new SheetError(`has more than ${mostRows} rows; divide it`, mostRows);
  const all = linesOf(data, named ? 2 : 1);
  const notes: SheetNote[] = errors
    .filter(({ type }) => type === 'Quotes')
    .slice(0, 20)
    .map(({ row = 0 }) => ({ row: all[row]?.row ?? 1, text: 'a quoted cell is not closed, or has text after its closing quote' }));
  return { format: 'csv', encoding, delimiter, ...headed(all, options, notes) };
}

/** Parts the head from the rows, and tells what is odd about it. */
export function headed(
  all: readonly SheetRow[],
  { headerRow, isKnown }: Pick<DelimitedOptions, 'headerRow' | 'isKnown'>,
  notes: readonly SheetNote[],
): Pick<Sheet, 'headerRow' | 'head' | 'rows' | 'notes'> {
  const filled = all.filter(({ cells }) => cells.some((cell) => cell.trim()));
  if (filled.length === 0) throw new SheetError('holds no rows', 1);
  const told = [...notes];
  const at =
    headerRow === undefined ? headerAt(filled, isKnown) : headerRow === 0 ? null : filled.findIndex(({ row }) => row === headerRow);
  if (at === -1) throw new SheetError('is blank, so it cannot name the columns', headerRow as number);
  const top = at === null ? null : (filled[at] as SheetRow);
  const rows = at === null ? filled : filled.slice(at + 1);
  const width = rows.slice(0, 1000).reduce((most, { cells }) => Math.max(most, cells.length), top?.cells.length ?? 0);
  if (width > mostColumns) throw new SheetError(`has ${width} columns; ${mostColumns} are read`, top?.row ?? 1);
  if (at)
    told.push({
      row: filled[0]?.row ?? 1,
      text: `${at === 1 ? 'a row stands' : `${at} rows stand`} above the head and ${at === 1 ? 'is' : 'are'} left out`,
    });
  return { headerRow: top?.row ?? null, head: namesOf(top?.cells ?? [], width, rows, told, top?.row ?? 1), rows, notes: told };
}

/** A name for every column: what stands twice or nowhere gets one of its own. Columns without name and content at the end go. */
function namesOf(cells: readonly string[], width: number, rows: readonly SheetRow[], notes: SheetNote[], row: number): string[] {
  let used = width;
  while (used > 1 && !cells[used - 1]?.trim() && !rows.some((each) => each.cells[used - 1]?.trim())) used--;
  const seen = new Map<string, number>();
  return Array.from({ length: used }, (_, i) => {
    const name = (cells[i] ?? '').replace(/\s+/g, ' ').trim() || `Column ${i + 1}`;
    const times = (seen.get(name) ?? 0) + 1;
    seen.set(name, times);
    if (times === 1) return name;
    notes.push({ row, text: `two columns are called “${name}”; the later one is called “${name} (${times})” here` });
    return `${name} (${times})`;
  });
}
