import type { FormValue } from '@underpass/contracts';

export type Values = Record<string, FormValue>;

/** What became of what a form holds while somebody else saved another version, field by field. */
export interface Merge {
  /** What the form goes on with: one's own edits, and the other's where one had none. */
  values: Values;
  /** Fields both changed, to different things: one of the two has to be chosen. */
  clashes: { field: string; mine: FormValue; theirs: FormValue }[];
  /** Fields that follow the other's version. */
  followed: { field: string; value: FormValue }[];
}

const same = (a: FormValue, b: FormValue): boolean => JSON.stringify(a) === JSON.stringify(b);

/** Puts one's own edits and somebody else's together, field by field. @param began what the form began with */
export function mergeValues(fields: readonly string[], began: Values, mine: Values, theirs: Values): Merge {
  const merge: Merge = { values: { ...mine }, clashes: [], followed: [] };
  for (const field of fields) {
    const [was, own, other] = [began[field] ?? '', mine[field] ?? '', theirs[field] ?? ''];
    if (same(own, other) || same(other, was)) continue;
    if (same(own, was)) {
      merge.values[field] = other;
      merge.followed.push({ field, value: other });
    } else merge.clashes.push({ field, mine: own, theirs: other });
  }
  return merge;
}

/** What a field holds, to be read beside another version of it. */
export const told = (value: FormValue): string =>
  typeof value === 'string'
    ? value
    : value
        .map((each) => (typeof each === 'string' ? each : Object.values(each).filter(Boolean).join(' ')))
        .filter(Boolean)
        .join('; ');
