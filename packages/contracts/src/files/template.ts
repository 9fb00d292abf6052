import type { z } from 'zod';
import { folderFiles, kindWords, objectKinds, objectSchemas, references, type Estate, type ObjectKind } from '../estate/estate.js';
import { Measurement } from '../estate/measurement.js';
import { columnsOf, type Column } from './columns.js';
import { columnWords, measurementWords } from './columnWords.js';
import { writeDocument } from './document.js';
import { measurementsFile } from './folder.js';
import { headOf, exampleRow } from './table.js';

/** Page of a template that explains its columns. */
export const templatePage = 'COLUMNS.md';

const cellOf = (text: string): string => text.replaceAll('|', '\\|').replace(/\s+/g, ' ');

/** What every kind has, or a name of something else, says nothing of itself in the schema. */
function saysOf(
  { name, description: own }: Column,
  named: Readonly<Record<string, ObjectKind>>,
  words: Readonly<Record<string, string>>,
): string {
  const description = own || (words[name] ?? words[`*.${name.split('.').at(-1) ?? ''}`]);
  const to = named[name];
  const of = to ? `The id of ${kindWords[to].one.toLowerCase()}, as in ${folderFiles[to]}` : '';
  if (description) return of ? `${description}. ${of}` : description;
  return (
    of || (name === 'id' ? 'What it is told by everywhere; no other of its kind has it' : name === 'name' ? 'What people call it' : '')
  );
}

const lineOf = (column: Column, named: Readonly<Record<string, ObjectKind>>, words: Readonly<Record<string, string>>): string =>
  `| \`${column.name}\` | ${column.required ? 'yes' : ''} | ${cellOf(saysOf(column, named, words))} | ${cellOf(column.expected)} |`;

const sectionOf = (
  file: string,
  title: string,
  columns: readonly Column[],
  named: Readonly<Record<string, ObjectKind>>,
  words: Readonly<Record<string, string>> = {},
): string =>
  [
    `## ${file}`,
    '',
    title,
    '',
    '| column | needed | what it says | what is right |',
    '| --- | --- | --- | --- |',
    ...columns.map((column) => lineOf(column, named, words)),
  ].join('\n');

const page = (kinds: readonly ObjectKind[]): string =>
  [
    '# Columns of an estate folder',
    '',
    'One file for each kind of thing; a file that is not there leaves its kind alone. Tables have commas between cells and quotes around a cell that holds one; a row that begins with # is not read. In the documents (.yaml) a column’s name with dots is a field within a field. Leave out what you do not know.',
    '',
    ...kinds.map(
      (kind) =>
        `${sectionOf(folderFiles[kind], kindWords[kind].many, columnsOf(objectSchemas[kind]), references[kind], columnWords[kind])}\n`,
    ),
    sectionOf(measurementsFile, 'Measurements', columnsOf(Measurement), { location: 'location' }, measurementWords),
    '',
  ].join('\n');

/**
 * A folder to fill in: a file for every kind with its columns and one example that is not read, and a page that explains them.
 * @param examples an estate whose first objects are the examples
 */
export function writeTemplate(examples: Estate, measurements: readonly Measurement[]): Map<string, string> {
  const files = new Map<string, string>();
  for (const kind of objectKinds) {
    const file = folderFiles[kind];
    const [example] = examples[kind] as object[];
    files.set(file, file.endsWith('.csv') ? table(objectSchemas[kind], example) : document(example));
  }
  files.set(measurementsFile, table(Measurement, measurements[0]));
  files.set(templatePage, page(objectKinds));
  return files;
}

const table = (schema: z.ZodType, example: object | undefined): string =>
  `${headOf(schema)}${example ? `#${exampleRow(schema, example)}` : ''}`;

const document = (example: object | undefined): string => `${example ? writeDocument([example]).replace(/^(?=.)/gm, '# ') : ''}[]\n`;
