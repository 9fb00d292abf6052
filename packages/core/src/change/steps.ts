import type { Patch } from '@underpass/contracts';
import { same, type ObjectChange } from '../estate/index.js';

const plainList = (value: unknown): value is string[] =>
  Array.isArray(value) && value.every((entry) => typeof entry === 'string') && new Set(value).size === value.length;

/** What was added to a list and taken out of it, where that alone leads from one to the other; null where the order changed too. */
function listStep(before: unknown, after: unknown): { add: string[]; drop: string[] } | null {
  if (!plainList(before) || !plainList(after)) return null;
  const add = after.filter((entry) => !before.includes(entry));
  const drop = before.filter((entry) => !after.includes(entry));
  const result = [...before.filter((entry) => after.includes(entry)), ...add];
  return result.every((entry, i) => entry === after[i]) ? { add, drop } : null;
}

function between(kind: ObjectChange['kind'], id: string, before: object, after: object): Patch | null {
  const set: Record<string, unknown> = {};
  const was: Record<string, unknown> = {};
  const [add, drop]: Record<string, string[]>[] = [{}, {}];
  const [old, fresh] = [before as Record<string, unknown>, after as Record<string, unknown>];
  for (const field of new Set([...Object.keys(old), ...Object.keys(fresh)])) {
    if (same(old[field], fresh[field])) continue;
    const list = listStep(old[field], fresh[field]);
    if (list) {
      if (list.add.length) add![field] = list.add;
      if (list.drop.length) drop![field] = list.drop;
    } else {
      set[field] = fresh[field] ?? null;
      was[field] = old[field] ?? null;
    }
  }
  const some = (record: object) => Object.keys(record).length > 0;
  if (!some(set) && !some(add!) && !some(drop!)) return null;
  return {
    do: 'change',
    kind,
    id,
    ...(some(set) ? { set, was } : {}),
    ...(some(add!) ? { add: add! } : {}),
    ...(some(drop!) ? { drop: drop! } : {}),
  };
}

/**
 * The steps that write given objects: field by field, lists as what is added and taken out, so that what others change beside it
 * stands. Made again from the objects before, they give exactly the objects after.
 */
export const stepsOf = (writes: readonly ObjectChange[]): Patch[] =>
  writes.flatMap(({ kind, id, before, after }): Patch[] => {
    if (!before) return after ? [{ do: 'create', kind, id, object: after }] : [];
    if (!after) return [{ do: 'remove', kind, id, was: before }];
    const step = between(kind, id, before, after);
    return step ? [step] : [];
  });

/** The steps that take written objects back: last written, first taken back. */
export const inverseOf = (writes: readonly ObjectChange[]): Patch[] =>
  stepsOf([...writes].reverse().map(({ kind, id, before, after }) => ({ kind, id, before: after, after: before })));
