import { z } from 'zod';
import { kindOrder, objectSchemas, references, secretFields, type ObjectKind } from '../estate/estate.js';
import { columnsOf, unwrap, type Column } from './columns.js';
import { withStandIns } from '../estate/standIns.js';
import { keyOfName } from './fields.js';
import { objectOfTexts } from './table.js';

/** Kinds that somebody may have a list of; of the organisation there is one. */
export const listedKinds = kindOrder.filter((kind) => kind !== 'organisation');

/** A field as a list is mapped to it: its column, and what it names. */
export type IntakeColumn = Column & { kind?: ObjectKind; whole: boolean };

/** Fields of a kind that a list can fill. Secrets are typed where they are used, and are in no list. */
export function intakeColumns(kind: ObjectKind): IntakeColumn[] {
  const open = columnsOf(objectSchemas[kind]).filter(({ name }) => !secretFields[kind].includes(name));
  return open.map((column) => {
    const named = references[kind][column.name];
    return { ...column, ...(named ? { kind: named } : {}), whole: isWhole(kind, column.path) };
  });
}

function isWhole(kind: ObjectKind, path: readonly string[]): boolean {
  let inner: z.ZodType = unwrap(objectSchemas[kind]);
  for (const key of path) inner = unwrap((inner as z.ZodObject).shape[key] as z.ZodType);
  return inner instanceof z.ZodNumber && inner.isInt;
}

/** What is wrong with a field of a row, and what would be right. */
export interface TextFault {
  field: string;
  problem: string;
  expected: string;
}

/** What a text says is not assumed any more. */
function said(raw: Record<string, unknown>, texts: Readonly<Record<string, string>>): Record<string, unknown> {
  const { assumed, ...rest } = raw;
  const left = ((assumed as string[] | undefined) ?? []).filter((field) => texts[field] === undefined || texts[field] === '');
  return left.length ? { ...rest, assumed: left } : rest;
}

/**
 * An object out of the texts of its fields, as a table holds them, over one that is there: what is not named stays as it is, and what it
 * cannot be without is taken to be so until somebody says it.
 */
export function objectOver(
  kind: ObjectKind,
  texts: Readonly<Record<string, string>>,
  over: object | null,
): { object: { id: string } } | { faults: TextFault[] } {
  const faults: TextFault[] = [];
  const object = objectOfTexts(
    objectSchemas[kind],
    Object.entries(texts),
    (fault) => faults.push(fault),
    over,
    (raw) => withStandIns(kind, said(raw, texts)),
  );
  return object ? { object: object as { id: string } } : { faults };
}

/** Where the rows of a list go: fields of a kind, what is there, and how texts become an object. */
export const intakeTarget = (kind: ObjectKind, objects: (kind: ObjectKind) => Iterable<{ id: string; name?: string }>) => ({
  kind,
  fields: intakeColumns(kind),
  objects,
  build: objectOver,
  keyOf: keyOfName,
});
