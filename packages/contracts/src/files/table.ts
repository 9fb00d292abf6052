import Papa from 'papaparse';
import type { z } from 'zod';
import { CellError } from './cellError.js';
import { columnsOf, type Column } from './columns.js';
import { faultsOfIssues } from './faults.js';
import { faultOfText } from './fitText.js';
import { harmless, plainCell } from './harmless.js';
import type { FileProblem } from './problem.js';

export interface Placed<T> {
  value: T;
  file: string;
  /** Where it begins. */
  line: number;
  /** Where a field of it stands; where it begins if that is not written. */
  lineAt: (field: string) => number;
}

interface Known {
  columns: readonly Column[];
  byName: ReadonlyMap<string, Column>;
}
const cache = new Map<z.ZodType, Known>();
function columnsFor(schema: z.ZodType): Known {
  let known = cache.get(schema);
  if (!known) {
    const columns = columnsOf(schema);
    known = { columns, byName: new Map(columns.map((column) => [column.name, column])) };
    cache.set(schema, known);
  }
  return known;
}

/** Puts a value in its place; what is around it is made anew, so that an object that was there stays as it is. */
function put(target: Record<string, unknown>, path: string[], value: unknown): void {
  let at = target;
  for (const key of path.slice(0, -1)) at = at[key] = { ...(at[key] as object | undefined) } as Record<string, unknown>;
  at[path.at(-1) as string] = value;
}

/**
 * An object out of the texts of its fields; what is empty, or no field, says nothing.
 * @param over an object that is there: what no text says stays as it is
 * @param finish what is done with the values before the schema looks at them
 * @returns null where anything is wrong, each told
 */
export function objectOfTexts<S extends z.ZodType>(
  schema: S,
  texts: Iterable<readonly [field: string, text: string]>,
  tell: (fault: Pick<FileProblem, 'field' | 'problem' | 'expected'>) => void,
  over: object | null = null,
  finish: (raw: Record<string, unknown>) => Record<string, unknown> = (raw) => raw,
): z.infer<S> | null {
  const { columns, byName } = columnsFor(schema);
  const raw = { ...over } as Record<string, unknown>;
  let good = true;
  const wrong = (fault: Pick<FileProblem, 'field' | 'problem' | 'expected'>) => {
    good = false;
    tell(fault);
  };
  for (const [name, text] of texts) {
    const column = byName.get(name);
    if (!column || text === '') continue;
    const unfit = faultOfText(text);
    if (unfit) {
      wrong({ field: column.name, problem: unfit, expected: column.expected });
      continue;
    }
    try {
      put(raw, column.path, column.read(text));
    } catch (error) {
      if (!(error instanceof CellError)) throw error;
      wrong({ field: column.name, problem: error.message, expected: column.expected });
    }
  }
  if (!good) return null;
  const result = schema.safeParse(finish(raw), { reportInput: true });
  if (result.success) return result.data;
  for (const issue of result.error.issues)
    for (const { path, problem } of faultsOfIssues([issue])) {
      const field = path.join('.');
      const column = columns.find((c) => field === c.name || field.startsWith(`${c.name}.`));
      wrong({
        field: column?.name ?? field,
        problem: issue.code === 'invalid_type' && issue.input === undefined ? 'is missing' : problem,
        expected: column?.expected ?? 'see the file description',
      });
    }
  return null;
}

/** Reads an RFC 4180 table into objects of the schema. A row that fails is left out and every reason is reported. */
export function readTable<S extends z.ZodType>(file: string, text: string, schema: S, problems: FileProblem[]): Placed<z.infer<S>>[] {
  const parsed = Papa.parse<string[]>(text.replace(/^\uFEFF/, ''), { skipEmptyLines: false, delimiter: ',' });
  const { columns, byName } = columnsFor(schema);
  const [head = [], ...rows] = parsed.data;
  for (const name of head)
    if (!byName.has(name.trim()))
      problems.push({
        file,
        line: 1,
        field: name,
        problem: 'is not a known column',
        expected: `one of ${columns.map((column) => column.name).join(', ')}`,
      });
  for (const error of parsed.errors)
    if (error.type === 'Quotes')
      problems.push({
        file,
        line: (error.row ?? 0) + 1,
        field: '',
        problem: 'a quoted cell is not closed or has text after its closing quote',
        expected: 'quotes doubled inside a quoted cell',
      });
  const found: Placed<z.infer<S>>[] = [];
  let line = 1;
  let previous = head;
  for (const row of rows) {
    line += 1 + previous.reduce((sum, cell) => sum + (cell.includes('\n') ? cell.split('\n').length - 1 : 0), 0);
    previous = row;
    if (row.length === 1 && !row[0]?.trim()) continue;
    // an example of a template; no key begins like that, so that no row is lost by it
    if (byName.has('id') && head[0]?.trim() === 'id' && row[0]?.startsWith('#')) continue;
    const before = problems.length;
    if (row.length > head.length)
      problems.push({
        file,
        line,
        field: '',
        problem: `has ${row.length} cells, the head has ${head.length}`,
        expected: 'quotes around cells that hold a comma',
      });
    const texts = head.map((name, i): [string, string] => [name.trim(), plainCell(row[i]?.trim() ?? '')]);
    const here = line;
    const value = objectOfTexts(schema, texts, (fault) => problems.push({ file, line: here, ...fault }));
    if (value && problems.length === before) found.push({ value, file, line: here, lineAt: () => here });
  }
  return found;
}

const at = (value: unknown, path: string[]): unknown =>
  path.reduce<unknown>((v, key) => (v as Record<string, unknown> | undefined)?.[key], value);

/** Writes a table of plain cells, harmless in a spreadsheet. */
export const writeRows = (heads: readonly string[], rows: readonly (readonly string[])[]): string =>
  Papa.unparse([[...heads], ...rows.map((row) => row.map(harmless))], { newline: '\n' }) + '\n';

/** Writes objects as an RFC 4180 table; reading it again gives equal objects. */
export function writeTable<S extends z.ZodType>(schema: S, objects: readonly z.infer<S>[]): string {
  const { columns } = columnsFor(schema);
  const used = columns.filter((column) => column.name === 'id' || objects.some((object) => column.write(at(object, column.path)) !== ''));
  const rows = objects.map((object) => used.map((column) => harmless(column.write(at(object, column.path)))));
  return Papa.unparse([used.map((column) => column.name), ...rows], { newline: '\n' }) + '\n';
}

/** The names of all columns of a schema, as a line. */
export const headOf = (schema: z.ZodType): string =>
  Papa.unparse([columnsFor(schema).columns.map(({ name }) => name)], { newline: '\n' }) + '\n';

/** One object as a line beneath the names of all columns. */
export const exampleRow = (schema: z.ZodType, object: object): string =>
  Papa.unparse([columnsFor(schema).columns.map((column) => harmless(column.write(at(object, column.path))))], { newline: '\n' }) + '\n';
