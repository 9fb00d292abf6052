import { kindWords, objectSchemas, references, usualOrder, type HeldRow, type ObjectKind, type SourceOrder } from '@underpass/contracts';
import { arrived, orderFor, same, type Intake, type Named, type SaidOf, type TakenRow } from '@underpass/core';
import type { Says } from '../estate/said.js';

/** Held fields that are told. */
const mostTold = 500;

interface Over {
  said: ReadonlyMap<string, SaidOf>;
  order: SourceOrder;
  over: boolean;
  nameOf: NameOf;
}

/** The name of an object that a field names; undefined where it is not there. */
export type NameOf = (kind: ObjectKind, id: string) => string | undefined;

/** The value of a field as a sentence can hold it: what it names by its name. */
export function textOfValue(kind: ObjectKind, field: string, value: unknown, nameOf: NameOf): string {
  if (value === undefined || value === null) return '';
  const to = references[kind][field];
  const text = (each: unknown): string => (to && typeof each === 'string' ? (nameOf(to, each) ?? each) : String(each));
  if (Array.isArray(value)) return value.every((each) => typeof each !== 'object') ? value.map(text).join(', ') : plain(value);
  return typeof value === 'object' ? plain(value) : text(value);
}

/** Something with parts: what each part is called, and what it is. */
function plain(value: unknown): string {
  if (Array.isArray(value)) return value.map(plain).join('; ');
  if (typeof value !== 'object' || value === null) return String(value);
  const { widthPx, heightPx, ...rest } = value as Record<string, unknown>;
  const size = widthPx === undefined ? [] : [`${String(widthPx)} × ${String(heightPx)}`];
  return [...size, ...Object.entries(rest).map(([name, part]) => `${name} ${plain(part)}`)].join(', ').slice(0, 300);
}

/** What becomes of the objects of a list where other sources say otherwise: the order decides, and what stays is told. */
export function settle(
  kind: ObjectKind,
  intake: Intake,
  source: string,
  { said, order, over, nameOf }: Over,
  at = new Date().toISOString(),
): { taken: TakenRow[]; told: { says: Says[]; held: HeldRow[]; heldTotal: number } } {
  const orderOf = (field: string) => orderFor(order, kind, field, usualOrder);
  const none: SaidOf = new Map();
  const says: Says[] = [];
  const held: HeldRow[] = [];
  let heldTotal = 0;
  const taken = intake.taken.map((row): TakenRow => {
    const { before, object: after, fields } = row;
    const came = arrived<Named>({ before, after, fields, source, at, said: said.get(after.id) ?? none, order: orderOf });
    if (Object.keys(came.says).length) says.push({ kind, id: after.id, source, fields: came.says });
    if (came.held.length === 0 || over) return row;
    // what would not hold together is not taken by halves: all of it stays, and is told
    const whole = objectSchemas[kind].safeParse(came.object).success;
    heldTotal += came.held.length;
    for (const { field, value, stands, source: by, at: since } of came.held)
      if (held.length < mostTold)
        held.push({
          ...{ row: row.row, id: after.id, name: before?.name ?? `${kindWords[kind].one} ${after.id}`, field },
          ...{ value: textOfValue(kind, field, value, nameOf), stands: textOfValue(kind, field, stands, nameOf), source: by, at: since },
        });
    const object = whole ? came.object : (before as Named);
    const left = whole && fields.some((field) => differs(before, object, field));
    return { ...row, object, change: left ? row.change : 'unchanged' };
  });
  return { taken, told: { says, held, heldTotal } };
}

const differs = (a: object | null, b: object, field: string): boolean =>
  !same((a as Record<string, unknown> | null)?.[field], (b as Record<string, unknown>)[field]);
