import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { mergePairs, orderSteps, sortKey, sortSteps, type SortKey } from '../src/jobs/order.js';

const finish = <T>(work: Generator<void, T>): T => {
  for (;;) {
    const step = work.next();
    if (step.done) return step.value;
  }
};
interface Row {
  key: SortKey;
  id: string;
}
/** The order by its definition: compare any two rows. */
const byDefinition =
  (way: 1 | -1) =>
  (a: Row, b: Row): number => {
    if (a.key === b.key) return a.id < b.id ? -1 : 1;
    if (a.key === null) return 1;
    if (b.key === null) return -1;
    if (typeof a.key !== typeof b.key) return typeof a.key === 'number' ? -1 : 1;
    return a.key < b.key ? -way : way;
  };
const ordered = (rows: readonly Row[], way: 1 | -1): Row[] =>
  finish(
    orderSteps(
      rows,
      ({ key }) => key,
      ({ id }) => id,
      way,
    ),
  );
const keyed = fc.array(
  fc.record({ key: fc.oneof(fc.constant(null), fc.integer({ min: -5, max: 5 }), fc.constantFrom('a', 'b', '')), id: fc.uuid() }),
  {
    maxLength: 60,
  },
);

describe('sorting in steps', () => {
  test('is sorting, for long lists too, and yields between its steps', () => {
    const long = Array.from({ length: 9001 }, (_, i) => ({ key: (i * 7919) % 1013, id: String(i).padStart(5, '0') }));
    const work = sortSteps(long, byDefinition(1));
    let steps = 0;
    let sorted: typeof long = [];
    for (let step = work.next(); ; step = work.next()) {
      if (step.done) {
        sorted = step.value;
        break;
      }
      steps++;
    }
    expect(sorted).toEqual([...long].sort(byDefinition(1)));
    // after each run of 4000 that is sorted, and after each 4000 that are put together: 3, and twice 2
    expect(steps).toBeGreaterThanOrEqual(3 + 2 + 2);
    expect(finish(sortSteps([], byDefinition(1)))).toEqual([]);
  });

  test('runs that are sorted are put together, of equals those of the first before', () => {
    const compare = (a: { n: number }, b: { n: number }) => a.n - b.n;
    const [first = []] = finish(
      mergePairs(
        [
          [
            { n: 1, from: 'a' },
            { n: 2, from: 'a' },
          ],
          [
            { n: 1, from: 'b' },
            { n: 3, from: 'b' },
          ],
        ],
        compare,
      ),
    );
    expect(first.map(({ n, from }) => `${n}${from}`)).toEqual(['1a', '1b', '2a', '3b']);
    expect(finish(mergePairs([[{ n: 5 }]], compare))).toEqual([[{ n: 5 }]]);
  });
});

describe('the order of a column', () => {
  test('is the same as where every two rows are compared', () => {
    fc.assert(
      fc.property(keyed, fc.constantFrom(1 as const, -1 as const), (rows: Row[], way) => {
        expect(ordered(rows, way)).toEqual([...rows].sort(byDefinition(way)));
      }),
    );
    const long = Array.from({ length: 9001 }, (_, i) => ({ key: (i * 7919) % 3, id: String((i * 31) % 9001) }));
    expect(ordered(long, -1)).toEqual([...long].sort(byDefinition(-1)));
  });

  test('turned round it is the other way round, but for what is not known, which stays last', () => {
    fc.assert(
      fc.property(keyed, (rows: Row[]) => {
        const [up, down] = [ordered(rows, 1), ordered(rows, -1)];
        for (const sorted of [up, down]) {
          const firstUnknown = sorted.findIndex(({ key }) => key === null);
          if (firstUnknown >= 0) expect(sorted.slice(firstUnknown).every(({ key }) => key === null)).toBe(true);
        }
        const numbers = (list: typeof rows) => list.flatMap(({ key }) => (typeof key === 'number' ? [key] : []));
        expect(numbers(down)).toEqual(numbers(up).reverse());
      }),
    );
  });

  test('texts without regard to capitals, versions by the figures in them, lists and switches as they read', () => {
    const sorted = (...values: unknown[]) =>
      ordered(
        values.map((value, i) => ({ key: sortKey(value), id: String(i) })),
        1,
      ).map(({ id }) => values[Number(id)]);
    expect(sorted('4.12.1', '4.2', '3.4_118', '10.0', '3.4_96')).toEqual(['3.4_96', '3.4_118', '4.2', '4.12.1', '10.0']);
    expect(sorted('beta', 'Alpha', undefined, '', 'alpha 2')).toEqual(['Alpha', 'alpha 2', 'beta', undefined, '']);
    expect(sorted(true, false, true)).toEqual([false, true, true]);
    expect(sorted(['b', 'a'], ['a', 'z'])).toEqual([
      ['a', 'z'],
      ['b', 'a'],
    ]);
    expect(sorted(10, 9, -1)).toEqual([-1, 9, 10]);
  });
});
