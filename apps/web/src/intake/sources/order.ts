import type { ObjectKind, SourceClass, SourceOrder } from '@underpass/contracts';

/** An order of its own: of a kind, or of one field of it. */
export interface Rule {
  kind: ObjectKind;
  field: string | null;
  order: readonly SourceClass[];
}

/** The orders that somebody set, kind by kind, that of all fields first. */
export const rulesOf = (order: SourceOrder): Rule[] =>
  (Object.entries(order) as [ObjectKind, NonNullable<SourceOrder[ObjectKind]>][]).flatMap(([kind, { all, fields }]) => [
    ...(all ? [{ kind, field: null, order: all }] : []),
    ...Object.entries(fields).map(([field, own]) => ({ kind, field, order: own })),
  ]);

/** With this rule; one of the same kind and field is replaced. */
export function withRule(order: SourceOrder, { kind, field, order: own }: Rule): SourceOrder {
  const now = order[kind] ?? { fields: {} };
  return { ...order, [kind]: field === null ? { ...now, all: [...own] } : { ...now, fields: { ...now.fields, [field]: [...own] } } };
}

/** Without it: what it was for follows the next wider one. */
export function withoutRule(order: SourceOrder, { kind, field }: Rule): SourceOrder {
  const { [kind]: now, ...others } = order;
  if (!now) return order;
  const { all, fields } = now;
  const left = Object.fromEntries(Object.entries(fields).filter(([name]) => name !== field));
  const keptAll = field === null ? undefined : all;
  if (keptAll === undefined && Object.keys(left).length === 0) return others;
  return { ...others, [kind]: { ...(keptAll ? { all: keptAll } : {}), fields: left } };
}

/** With one put before the one before it, or behind the one behind. */
export function moved(order: readonly SourceClass[], at: number, by: -1 | 1): SourceClass[] {
  const next = [...order];
  const other = at + by;
  if (other < 0 || other >= next.length) return next;
  [next[at], next[other]] = [next[other] as SourceClass, next[at] as SourceClass];
  return next;
}
