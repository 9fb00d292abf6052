import { gaps } from '../gaps.js';
import { importInto } from '../importInto.js';
import { columns, read, template } from '../intake.js';
import { folder, demo, type CommandWords } from './words.js';

/** Commands for files that come in, and what is known. */
export const ofFiles: readonly CommandWords[] = [
  {
    name: 'columns',
    does: 'What a list of somebody’s holds: how it is written, what each column looks like, and the field it is taken for.',
    takes: [['FILE', 'list as CSV, workbook (.xlsx) or LDIF']],
    options: [{ name: 'kind', takes: 'KIND', says: 'kind of object the list is of, such as endpoint', without: 'the one that fits best' }],
    examples: ['columns devices.csv', 'columns devices.xlsx --kind endpoint'],
    run: columns,
  },
  {
    name: 'read',
    does: 'Takes a list in: which rows are new, changed or as they were, and what keeps the others out. Writes estate files only with --into.',
    takes: [['FILE', 'list as CSV, workbook (.xlsx) or LDIF']],
    options: [
      { name: 'kind', takes: 'KIND', says: 'kind of object the rows are', without: 'that of the mapping' },
      { name: 'map', takes: 'FILE.yaml', says: 'a mapping that was kept', without: 'what the columns are taken for' },
      { name: 'into', takes: 'FOLDER', says: 'estate folder that rows are compared with and written to; it may be empty or not there yet' },
    ],
    examples: ['read devices.csv --kind endpoint --map devices.yaml --into my-estate'],
    run: read,
  },
  {
    name: 'gaps',
    does: 'What is measured, reported, declared, assumed or not known of an estate, and what is best learned next.',
    takes: folder,
    options: [],
    examples: [`gaps ${demo}`],
    run: (options) => gaps(options, Date.now()),
  },
  {
    name: 'template',
    does: 'Writes an estate folder to fill in: every file with its columns and one example, and a page that explains them.',
    takes: [['FOLDER', 'folder to write; it must be new or empty']],
    options: [],
    examples: ['template my-estate'],
    run: template,
  },
  {
    name: 'import',
    does: 'Imports an estate folder into a running server: a dry run, or all or nothing. Signs in with UNDERPASS_EMAIL and UNDERPASS_PASSWORD.',
    takes: folder,
    options: [
      { name: 'server', takes: 'URL', says: 'where it runs', without: 'http://127.0.0.1:4600' },
      { name: 'apply', takes: 'yes|no', says: 'whether to import, or only to tell what would be', without: 'no' },
    ],
    examples: [`import ${demo} --apply yes`],
    run: importInto,
  },
];
