/** So many are sorted at once. */
const run = 4000;

/** Sorts in steps, so that whoever waits can be served between them. */
export function* sortSteps<T>(list: readonly T[], compare: (a: T, b: T) => number): Generator<void, T[]> {
  let runs: T[][] = [];
  for (let i = 0; i < list.length; i += run) {
    runs.push(list.slice(i, i + run).sort(compare));
    yield;
  }
  while (runs.length > 1) runs = yield* mergePairs(runs, compare);
  return runs[0] ?? [];
}

/** Sorted runs, two by two put together. */
export function* mergePairs<T>(runs: readonly T[][], compare: (a: T, b: T) => number): Generator<void, T[][]> {
  const next: T[][] = [];
  for (let i = 0; i < runs.length; i += 2) {
    next.push(merged(runs[i] as T[], runs[i + 1] ?? [], compare));
    yield;
  }
  return next;
}

/** Two sorted lists as one; of equals those of the first come first. */
function merged<T>(a: readonly T[], b: readonly T[], compare: (a: T, b: T) => number): T[] {
  const all: T[] = [];
  let [i, j] = [0, 0];
  while (i < a.length || j < b.length) {
    const fromFirst = j >= b.length || (i < a.length && compare(a[i] as T, b[j] as T) <= 0);
    all.push((fromFirst ? a[i++] : b[j++]) as T);
  }
  return all;
}

/** What is compared of a value: figures by size, versions and names by the figures in them; what is not there comes last. */
export type SortKey = number | string | null;

export function sortKey(value: unknown): SortKey {
  if (value === undefined || value === null || value === '') return null;
  if (typeof value === 'number') return value;
  if (typeof value === 'boolean') return value ? 1 : 0;
  const text = Array.isArray(value) ? value.join(', ') : typeof value === 'object' ? JSON.stringify(value) : String(value as string);
  const lower = text.toLowerCase();
  return /\d/.test(lower) ? lower.replace(/\d+/g, (digits) => digits.padStart(9, '0')) : lower;
}

/** Rows by their key, those of one key by id, so that a list always comes out the same; nothing known is last whichever way round. */
export function* orderSteps<T>(
  rows: readonly T[],
  keyOf: (row: T) => SortKey,
  idOf: (row: T) => string,
  way: 1 | -1,
): Generator<void, T[]> {
  // most columns hold few different values: only those are compared with each other
  const groups = new Map<SortKey, T[]>();
  for (const [i, row] of rows.entries()) {
    const key = keyOf(row);
    const group = groups.get(key);
    if (group) group.push(row);
    else groups.set(key, [row]);
    if (i % run === run - 1) yield;
  }
  const ordered: T[] = [];
  for (const key of yield* sortSteps([...groups.keys()], byKey(way))) {
    const group = groups.get(key) as T[];
    for (const row of isInOrder(group, idOf) ? group : yield* sortSteps(group, (a, b) => (idOf(a) < idOf(b) ? -1 : 1))) ordered.push(row);
  }
  return ordered;
}

/** As they mostly come. */
const isInOrder = <T>(group: readonly T[], idOf: (row: T) => string): boolean =>
  group.every((row, i) => i === 0 || idOf(group[i - 1] as T) <= idOf(row));

const byKey =
  (way: 1 | -1) =>
  (a: SortKey, b: SortKey): number => {
    if (a === b) return 0;
    if (a === null) return 1;
    if (b === null) return -1;
    if (typeof a !== typeof b) return typeof a === 'number' ? -1 : 1;
    return a < b ? -way : way;
  };
