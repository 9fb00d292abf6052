import { expect, test } from '@jest/globals';
import { atOnce, type CrossingRef, type Summary } from '@underpass/core';
import fc from 'fast-check';
import { OrderedResults } from '../src/crossing/orderedResults.js';

const verdicts = ['blocked', 'limited', 'unknown', 'clear'] as const;
const refOf = (id: string) => ({ id }) as CrossingRef;
const step = fc.record({
  id: fc.nat(60).map((n) => `c${String(n).padStart(2, '0')}`),
  verdict: fc.constantFrom(...verdicts),
  delayMs: fc.nat(5),
  does: fc.constantFrom('put', 'put', 'put', 'drop', 'list'),
});

/** The order by plain sorting: the worst verdict, then the longest delay, then by id. */
const plainly = (known: ReadonlyMap<string, Pick<Summary, 'verdict' | 'delayMs'>>): string[] =>
  [...known]
    .sort(([a, x], [b, y]) => verdicts.indexOf(x.verdict) - verdicts.indexOf(y.verdict) || y.delayMs - x.delayMs || (a < b ? -1 : 1))
    .map(([id]) => id);

test('whatever comes and goes, few or many, the list is that of plain sorting', () => {
  fc.assert(
    fc.property(fc.array(step, { maxLength: 200 }), fc.boolean(), (steps, isFull) => {
      const ordered = new OrderedResults();
      const known = new Map<string, Pick<Summary, 'verdict' | 'delayMs'>>();
      const put = (id: string, summary: Pick<Summary, 'verdict' | 'delayMs'>) => {
        known.set(id, summary);
        ordered.put({ ref: refOf(id), area: '', summary: summary as Summary });
      };
      // a long list, in which a few are looked up their places
      if (isFull) for (let i = 0; i < 300; i++) put(`z${i}`, { verdict: verdicts[i % 4]!, delayMs: i % 7 });
      for (const { id, verdict, delayMs, does } of steps) {
        if (does === 'put') put(id, { verdict, delayMs });
        else if (does === 'drop') {
          known.delete(id);
          ordered.drop(id);
        } else expect(ordered.list().map(({ ref }) => ref.id)).toEqual(plainly(known));
      }
      expect(ordered.list().map(({ ref }) => ref.id)).toEqual(plainly(known));
      expect([...ordered.byId.keys()].sort()).toEqual([...known.keys()].sort());
    }),
  );
});

test('what comes while many are put in their places is in the next list', () => {
  const ordered = new OrderedResults();
  const summary = { verdict: 'limited', delayMs: 5 } as Summary;
  for (let i = 0; i < 10_000; i++) ordered.put({ ref: refOf(`a${i}`), area: '', summary });
  expect(ordered.isLong).toBe(false);
  ordered.put({ ref: refOf('one more'), area: '', summary });
  expect([ordered.isLong, ordered.list().length]).toEqual([true, 0]);
  const work = ordered.work();
  work.next();
  ordered.put({ ref: refOf('late'), area: '', summary: { ...summary, verdict: 'blocked' } });
  ordered.drop('a7');
  expect(ordered.list()).toHaveLength(0);
  atOnce(work);
  const ids = ordered.list().map(({ ref }) => ref.id);
  expect([ids[0], ids.length, ids.includes('a7')]).toEqual(['late', 10_001, false]);
});

test('a delay counts as it is told, to a tenth: of those told alike the first by id comes first, and one that grows older stays', () => {
  const ordered = new OrderedResults();
  const put = (id: string, delayMs: number) => ordered.put({ ref: refs[id]!, area: '', summary: { verdict: 'clear', delayMs } as Summary });
  const refs: Record<string, CrossingRef> = { a: refOf('a'), b: refOf('b'), c: refOf('c') };
  const listed = () => ordered.list().map(({ ref, summary }) => `${ref.id} ${summary.delayMs}`);
  put('b', 10.04);
  put('a', 9.96);
  put('c', 10.06);
  expect(listed()).toEqual(['c 10.06', 'a 9.96', 'b 10.04']);
  const before = ordered.list();
  put('a', 10.049);
  expect([listed(), ordered.list() === before]).toEqual([['c 10.06', 'a 10.049', 'b 10.04'], true]);
  put('a', 10.05);
  expect(listed()).toEqual(['a 10.05', 'c 10.06', 'b 10.04']);
});
