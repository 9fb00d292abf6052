import type { Change, ObjectKind } from '@underpass/contracts';
import { same, type EstateModel, type ObjectChange } from '../estate/index.js';
import { made } from './made.js';

/** One thing that two changes of the same estate write, or only one of them. */
export interface Compared {
  kind: ObjectKind;
  id: string;
  /** The field; null where an object is created or removed as a whole. */
  field: string | null;
  now: unknown;
  first: unknown;
  second: unknown;
  /** Whether both leave it alike. */
  alike: boolean;
}

/** Two changes beside each other, field by field, on the estate as it is. Fields that neither changes are left out. */
export function compare(model: EstateModel, first: Change, second: Change, atMs: number): Compared[] {
  const results = [first, second].map(
    (change) => new Map(made(model, change, atMs).all.map((write) => [`${write.kind}/${write.id}`, write])),
  ) as [Map<string, ObjectChange>, Map<string, ObjectChange>];
  return [...new Set([...results[0].keys(), ...results[1].keys()])].flatMap((key): Compared[] => {
    const writes = results.map((each) => each.get(key));
    const { kind, id } = (writes[0] ?? writes[1]) as ObjectChange;
    const now = model.find(kind, id) ?? null;
    const [a, b] = writes.map((write) => (write ? write.after : now)) as [object | null, object | null];
    if (!now || !a || !b) return [{ kind, id, field: null, now, first: a, second: b, alike: same(a, b) }];
    const [old, left, right] = [now, a, b] as Record<string, unknown>[] as [
      Record<string, unknown>,
      Record<string, unknown>,
      Record<string, unknown>,
    ];
    return [...new Set([...Object.keys(old), ...Object.keys(left), ...Object.keys(right)])]
      .sort()
      .filter((field) => !same(old[field], left[field]) || !same(old[field], right[field]))
      .map((field) => ({
        kind,
        id,
        field,
        now: old[field],
        first: left[field],
        second: right[field],
        alike: same(left[field], right[field]),
      }));
  });
}
