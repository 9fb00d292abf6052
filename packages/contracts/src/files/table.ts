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

const columnCache = new Map<z.ZodType, Column[]>();
const columnsFor = (schema: z.ZodType): Column[] => {
  const known = columnCache.get(schema) ?? columnsOf(schema);
  columnCache.set(schema, known);
  return known;
};

function put(target: Record<string, unknown>, path: string[], value: unknown): void {
  let at = target;
  for (const key of path.slice(0, -1)) at = (at[key] ??= {}) as Record<string, unknown>;
  at[path.at(-1) as string] = value;
}

/** Reads an RFC 4180 table into objects of the schema. A row that fails is left out and every reason is reported. */
export function readTable<S extends z.ZodType>(file: string, text: string, schema: S, problems: FileProblem[]): Placed<z.infer<S>>[] {
  const parsed = Papa.parse<string[]>(text.replace(/^\uFEFF/, ''), { skipEmptyLines: false, delimiter: ',' });
  const columns = columnsFor(schema);
  const byName = new Map(columns.map((column) => [column.name, column]));
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
    const before = problems.length;
    if (row.length > head.length)
      problems.push({
        file,
        line,
        field: '',
        problem: `has ${row.length} cells, the head has ${head.length}`,
        expected: 'quotes around cells that hold a comma',
      });
    const raw: Record<string, unknown> = {};
    head.forEach((name, i) => {
      const column = byName.get(name.trim());
      const cell = plainCell(row[i]?.trim() ?? '');
      if (!column || cell === '') return;
      const unfit = faultOfText(cell);
      if (unfit) return void problems.push({ file, line, field: column.name, problem: unfit, expected: column.expected });
      try {
        put(raw, column.path, column.read(cell));
      } catch (error) {
        if (!(error instanceof CellError)) throw error;
        problems.push({ file, line, field: column.name, problem: error.message, expected: column.expected });
      }
    });
    if (problems.length > before) continue;
    const result = schema.safeParse(raw, { reportInput: true });
    const here = line;
    if (result.success) found.push({ value: result.data, file, line, lineAt: () => here });
    else
      for (const issue of result.error.issues)
        for (const { path, problem } of faultsOfIssues([issue])) {
          const field = path.join('.');
          const column = columns.find((c) => field === c.name || field.startsWith(`${c.name}.`));
          problems.push({
            file,
            line,
            field: column?.name ?? field,
            problem: issue.code === 'invalid_type' && issue.input === undefined ? 'is missing' : problem,
            expected: column?.expected ?? 'see the file description',
          });
        }
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
  const columns = columnsFor(schema);
  const used = columns.filter((column) => column.name === 'id' || objects.some((object) => column.write(at(object, column.path)) !== ''));
  const rows = objects.map((object) => used.map((column) => harmless(column.write(at(object, column.path)))));
  return Papa.unparse([used.map((column) => column.name), ...rows], { newline: '\n' }) + '\n';
}
