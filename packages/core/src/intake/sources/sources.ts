import type { ObjectKind, SourceClass, SourceOrder } from '@underpass/contracts';
import { same } from '../../estate/difference.js';

/** What a source says of a field: the value (null: that there is none), since when, and who where it was somebody. */
export interface SaidField {
  value: unknown;
  at: string;
  by?: string;
}
/** What a source says of an object, by its fields. */
export type SaidFields = Readonly<Record<string, SaidField>>;
/** What all sources say of an object, by source: `typed`, `list:Inventory`. */
export type SaidOf = ReadonlyMap<string, SaidFields>;

/** A field that stays as it is although a source says otherwise: another one decides. */
export interface Held {
  field: string;
  /** What the source says. */
  value: unknown;
  /** What stands. */
  stands: unknown;
  /** Which source decides, and since when it says so; null where nothing is known of it. */
  source: string;
  at: string | null;
}

/** The order that holds for a field. */
export function orderFor(order: SourceOrder, kind: ObjectKind, field: string, usual: readonly SourceClass[]): readonly SourceClass[] {
  const own = order[kind];
  return own?.fields[field] ?? own?.all ?? usual;
}

/** Whether two values of a field are the same: one that is not there is like null. */
const alike = (a: unknown, b: unknown): boolean => same(a ?? null, b ?? null);
/** The class of a source: what stands before its name. @example classOf('list:Inventory') // 'list' */
export const classOf = (source: string): SourceClass => source.split(':')[0] as SourceClass;

type Order = (field: string) => readonly SourceClass[];
const rankOf = (order: Order, field: string, source: string): number => order(field).indexOf(classOf(source));

/** The source that what stands is from: of those that say so, the one that decides; files, where nobody does. */
function standing(field: string, value: unknown, said: SaidOf, order: Order): { source: string; at: string | null; by?: string } {
  let best: { source: string; at: string | null; by?: string } | null = null;
  for (const [source, fields] of said) {
    const told = fields[field];
    if (!told || !alike(told.value, value)) continue;
    if (best && rankOf(order, field, best.source) <= rankOf(order, field, source)) continue;
    best = { source, at: told.at, ...(told.by === undefined ? {} : { by: told.by }) };
  }
  return best ?? { source: 'files', at: null };
}

/** What a source says, and over what. */
export interface Arrival<T extends object> {
  before: T | null;
  /** The object as the source would have it. */
  after: T;
  /** Fields it says something of. */
  fields: readonly string[];
  source: string;
  at: string;
  said: SaidOf;
  order: Order;
}

/**
 * What becomes of an object of which a source says something. A field takes what it says where no source that is before it in the order
 * says what stands; else it stays, and that is told. What is not there yet, and what is only assumed, takes what anybody says.
 * Of two sources of one class the later one is taken.
 */
export function arrived<T extends object>({
  before,
  after,
  fields,
  source,
  at,
  said,
  order,
}: Arrival<T>): {
  object: T;
  held: Held[];
  says: SaidFields;
} {
  const told = after as Readonly<Record<string, unknown>>;
  const there = (before ?? {}) as Readonly<Record<string, unknown>>;
  const assumed = assumedOf(there);
  const own = said.get(source) ?? {};
  const held: Held[] = [];
  const says: Record<string, SaidField> = {};
  const object: Record<string, unknown> = { ...told };
  for (const field of fields) {
    const value = told[field];
    const known = own[field];
    if (!known || !alike(known.value, value)) says[field] = { value: value ?? null, at };
    if (!before || assumed.includes(field) || alike(value, there[field])) continue;
    const decides = standing(field, there[field], said, order);
    // nobody says that there is nothing: what is not there takes what comes
    if (there[field] === undefined && decides.source === 'files') continue;
    if (rankOf(order, field, source) <= rankOf(order, field, decides.source)) continue;
    held.push({ field, value, stands: there[field], source: decides.source, at: decides.at });
    if (there[field] === undefined) delete object[field];
    else object[field] = there[field];
  }
  return { object: object as T, held, says };
}

/** Fields that are taken to be so. The organisation has figures of its own under the same name. */
const assumedOf = (object: Readonly<Record<string, unknown>>): readonly string[] =>
  Array.isArray(object.assumed) ? (object.assumed as string[]) : [];
const isListOfAssumed = (field: string, ...objects: readonly Readonly<Record<string, unknown>>[]): boolean =>
  field === 'assumed' && objects.every(({ assumed }) => assumed === undefined || Array.isArray(assumed));

/** What somebody says by changing an object by hand: the fields that get another value. What is assumed nobody says. */
export function typed(before: object | null, after: object, at: string, by: string): SaidFields {
  const [there, next] = [(before ?? {}) as Record<string, unknown>, after as Record<string, unknown>];
  const assumed = assumedOf(next);
  const changed = [...new Set([...Object.keys(there), ...Object.keys(next)])].filter(
    (field) => field !== 'id' && !isListOfAssumed(field, there, next) && !assumed.includes(field) && !alike(there[field], next[field]),
  );
  return Object.fromEntries(changed.map((field) => [field, { value: next[field] ?? null, at, by }]));
}

/** Where the value of a field is from, and what others say of it. */
export interface Origin {
  field: string;
  value: unknown;
  source: string;
  at: string | null;
  by?: string;
  /** Sources that say otherwise, the deciding one first. */
  others: { source: string; value: unknown; at: string; by?: string }[];
}

/** Where each field of an object is from; fields of which no source says anything are left out. */
export function originsOf(object: object, said: SaidOf, order: Order): Origin[] {
  const now = object as Readonly<Record<string, unknown>>;
  const fields = new Set([...said.values()].flatMap((each) => Object.keys(each)));
  return [...fields].sort().map((field) => {
    const others = [...said]
      .flatMap(([source, told]) => {
        const one = told[field];
        return one && !alike(one.value, now[field]) ? [{ source, ...one }] : [];
      })
      .sort((a, b) => rankOf(order, field, a.source) - rankOf(order, field, b.source) || (a.source < b.source ? -1 : 1));
    return { field, value: now[field] ?? null, ...standing(field, now[field], said, order), others };
  });
}
