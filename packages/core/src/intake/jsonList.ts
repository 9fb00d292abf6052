import { mostColumns, mostRows } from './delimited.js';
import { SheetError, type Sheet } from './sheet.js';

/** Whether a text is JSON: it begins as a list or an object does. */
export const isJson = (text: string): boolean => /^\uFEFF?\s*[[{]/.test(text.slice(0, 1000));

/** Objects within objects are flattened so deep. */
const deepest = 4;

/** A cell of what stands in a field: what is in a list one behind the other, what is within has its names before it. */
function cellsOf(value: unknown, path: string, cells: Map<string, string>, depth: number): void {
  if (value === null || value === undefined) return;
  if (Array.isArray(value)) {
    const plain = value.filter((each) => each !== null && typeof each !== 'object');
    if (plain.length) cells.set(path, plain.map(String).join(';'));
    else if (value.length) cells.set(path, JSON.stringify(value));
  } else if (typeof value === 'object' && depth < deepest)
    for (const [key, inner] of Object.entries(value)) cellsOf(inner, path ? `${path}.${key}` : key, cells, depth + 1);
  else
    cells.set(
      path,
      typeof value === 'boolean'
        ? value
          ? 'yes'
          : 'no'
        : typeof value === 'object'
          ? JSON.stringify(value)
          : String(value as string | number),
    );
}

/** The list in what was sent: it itself, or the one list of objects that an object holds. */
function listIn(content: unknown): unknown[] {
  if (Array.isArray(content)) return content as unknown[];
  const lists = Object.values(content as object).filter((each) => Array.isArray(each)) as unknown[][];
  if (lists.length === 1) return lists[0] as unknown[];
  throw new SheetError(lists.length ? 'holds several lists; send one' : 'is no list of objects', 1);
}

/**
 * Reads a list of objects as another system writes its inventory [RFC 8259]: a column for each field, those of objects within under
 * their names with dots. A row is an object by its place, counted from 1.
 * @throws SheetError of what is no JSON, with its line where that is told
 */
export function readJsonList(text: string): Sheet {
  let content: unknown;
  try {
    content = JSON.parse(text.replace(/^\uFEFF/, ''));
  } catch (error) {
    const at = /position (\d+)/.exec((error as Error).message)?.[1];
    throw new SheetError('is not valid JSON', at === undefined ? 1 : text.slice(0, Number(at)).split('\n').length);
  }
  const list = listIn(content);
  if (list.length === 0) throw new SheetError('holds no rows', 1);
  if (list.length > mostRows) throw new SheetError(`has more than ${mostRows} rows; divide it`, mostRows);
  const columns = new Map<string, number>();
  const rows = list.map((each, i) => {
    if (typeof each !== 'object' || each === null || Array.isArray(each))
      throw new SheetError(`has something in it that is no object, number ${i + 1}`, i + 1);
    const cells = new Map<string, string>();
    cellsOf(each, '', cells, 0);
    for (const name of cells.keys()) if (!columns.has(name)) columns.set(name, columns.size);
    if (columns.size > mostColumns) throw new SheetError(`has more than ${mostColumns} fields`, i + 1);
    return { row: i + 1, cells };
  });
  const head = [...columns.keys()];
  return {
    ...{ format: 'json', encoding: 'utf-8', delimiter: null, headerRow: null, head, notes: [] },
    rows: rows.map(({ row, cells }) => ({ row, cells: head.map((name) => cells.get(name) ?? '') })),
  };
}
