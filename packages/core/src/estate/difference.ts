import type { Estate, ObjectKind } from '@underpass/contracts';

/** How an object differs between two estates. */
export interface Difference {
  kind: ObjectKind;
  id: string;
  change: 'added' | 'changed' | 'unchanged';
  /** Fields that differ, for a changed object. */
  fields: string[];
}

/** Whether two plain values hold the same, whatever the order of their keys. */
export function same(a: unknown, b: unknown): boolean {
  if (a === b) return true;
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null || Array.isArray(a) !== Array.isArray(b)) return false;
  const [left, right] = [a as Record<string, unknown>, b as Record<string, unknown>];
  const keys = new Set([...Object.keys(left), ...Object.keys(right)]);
  for (const key of keys) if (!same(left[key], right[key])) return false;
  return true;
}

/** What an import of `next` would do to `now`. Objects that the import does not name stay as they are. */
export function difference(now: Estate, next: Estate): Difference[] {
  const result: Difference[] = [];
  for (const kind of Object.keys(next) as ObjectKind[]) {
    const known = new Map((now[kind] as { id: string }[]).map((object) => [object.id, object]));
    for (const object of next[kind] as { id: string }[]) {
      const before = known.get(object.id) as Record<string, unknown> | undefined;
      const after = object as unknown as Record<string, unknown>;
      if (!before) result.push({ kind, id: object.id, change: 'added', fields: [] });
      else {
        const fields = [...new Set([...Object.keys(before), ...Object.keys(after)])].filter((field) => !same(before[field], after[field]));
        result.push({ kind, id: object.id, change: fields.length ? 'changed' : 'unchanged', fields });
      }
    }
  }
  return result;
}
