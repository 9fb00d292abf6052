import { fieldsOf, folderFiles, listColumns, partAt, references, type ObjectKind, type ObjectPage } from '@underpass/contracts';
import type { ListColumn } from '../ui/list/columns.js';
import { said } from '../ui/said.js';
import { cellOf, nameOf } from './kinds.js';
import { labelOf } from '../ui/form/labels.js';

export type ObjectRow = Record<string, unknown>;
type Names = ObjectPage['names'];

/** Columns of the list of a kind: those of its definition, and every other plain field where it is chosen. */
export function columnsOfKind(kind: ObjectKind, names: Names): ListColumn<ObjectRow>[] {
  const heads = new Map(listColumns[kind].map(([field, head]) => [field as string, head as string]));
  const told = (row: ObjectRow, field: string): string => {
    const value = partAt(row, field.split('.'));
    const to = references[kind][field];
    if (to && value !== undefined && value !== null)
      return [value]
        .flat()
        .map((id) => names[to]?.[String(id)] ?? String(id))
        .join(', ');
    return Array.isArray(value) && value.every((each) => typeof each === 'string') ? value.map(said).join(', ') : said(cellOf(value));
  };
  const keyOf = (row: ObjectRow) => String(row.key);
  const column = (field: string, extra: boolean): ListColumn<ObjectRow> => ({
    id: field,
    head: heads.get(field) ?? labelOf(field),
    width: 'minmax(90px, 1fr)',
    cell: (row) => told(row, field),
    text: (row) => told(row, field),
    extra,
  });
  const fields = fieldsOf(kind)
    .filter(({ name, shape }) => name !== 'id' && name !== 'name' && shape !== 'rows')
    .map(({ name }) => name);
  return [
    {
      id: kind === 'setting' ? 'key' : 'name',
      head: 'Name',
      width: 'minmax(150px, 1.4fr)',
      cell: (row) => nameOf(kind, row),
      text: (row) => nameOf(kind, row),
    },
    { id: 'id', head: 'Id', width: '130px', cell: (row) => String(row.id), text: (row) => String(row.id) },
    ...(kind === 'setting' ? [{ ...column('key', false), head: 'Key', id: 'keyOf', sorts: false, cell: keyOf, text: keyOf }] : []),
    ...[...heads.keys()].map((field) => column(field, false)),
    ...fields.filter((field) => !heads.has(field) && field !== 'key').map((field) => column(field, true)),
  ];
}

/** The file that a list is exported as. */
export const fileOfKind = (kind: ObjectKind): string => folderFiles[kind];
