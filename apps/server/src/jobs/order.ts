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
    next.push(yield* merging(runs[i] as T[], runs[i + 1] ?? [], compare));
    yield;
  }
  return next;
}

/** Two sorted lists as one, in steps; of equals those of the first come first. */
function* merging<T>(a: readonly T[], b: readonly T[], compare: (a: T, b: T) => number): Generator<void, T[]> {
  const all: T[] = [];
  let [i, j] = [0, 0];
  while (i < a.length || j < b.length) {
    const fromFirst = j >= b.length || (i < a.length && compare(a[i] as T, b[j] as T) <= 0);
    all.push((fromFirst ? a[i++] : b[j++]) as T);
    if (all.length % run === 0) yield;
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
  for (const key of yield* keysInOrder([...groups.keys()], way)) {
    const group = groups.get(key) as T[];
    if (!isInOrder(group, idOf)) yield* sortedInPlace(group, (a, b) => (idOf(a) < idOf(b) ? -1 : 1));
    for (const row of group) ordered.push(row);
  }
  return ordered;
}

/** Up to this many are sorted by the machine's own sort in one go, which holds others up for some hundredths of a second. */
const atOnce = 60_000;

function* sortedInPlace<T>(list: T[], compare: (a: T, b: T) => number): Generator<void, void> {
  if (list.length <= atOnce) list.sort(compare);
  else for (const [i, each] of (yield* sortSteps(list, compare)).entries()) list[i] = each;
  yield;
}

/** Figures first, then texts by their letters, then what is not known. */
function* keysInOrder(keys: readonly SortKey[], way: 1 | -1): Generator<void, SortKey[]> {
  const numbers = keys.filter((key) => typeof key === 'number').sort((a, b) => a - b);
  const texts = keys.filter((key) => typeof key === 'string');
  // without a function of ours the machine compares letter by letter, several times as fast
  if (texts.length <= atOnce) texts.sort();
  else yield* sortedInPlace(texts, (a, b) => (a < b ? -1 : 1));
  yield;
  if (way < 0) for (const list of [numbers, texts]) list.reverse();
  return [...numbers, ...texts, ...(keys.includes(null) ? [null] : [])];
}

/** As they mostly come. */
const isInOrder = <T>(group: readonly T[], idOf: (row: T) => string): boolean =>
  group.every((row, i) => i === 0 || idOf(group[i - 1] as T) <= idOf(row));
