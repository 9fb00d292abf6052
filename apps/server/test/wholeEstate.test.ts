import { expect, test } from '@jest/globals';
import { FactsReader, modelOf, type CrossingRef } from '@underpass/core';
import { emptyEstate } from '@underpass/contracts';
import { setImmediate } from 'node:timers/promises';
import { eachInSlices, KeptAnswers } from '../src/jobs/slices.js';

const ref = (i: number): CrossingRef => ({ id: String(i), person: 'p', endpoint: 'e', location: 'l', resource: 'r' });
const readerOf = () => new FactsReader(modelOf({ ...emptyEstate() }, []), 0);

test('work in slices goes through everything once and in order, and lets others in between', async () => {
  const met: string[] = [];
  let served = 0;
  let over = false;
  const others = (async () => {
    while (!over) {
      await setImmediate();
      served++;
    }
  })();
  await eachInSlices(
    Array.from({ length: 400 }, (_, i) => ref(i)),
    ({ id }) => {
      met.push(id);
      // as long as evaluating takes
      const until = performance.now() + 1;
      while (performance.now() < until);
    },
  );
  const between = served;
  over = true;
  await others;
  expect(met).toEqual(Array.from({ length: 400 }, (_, i) => String(i)));
  // 400 ms of work in slices of 10 ms and at most 32 crossings: somebody else had a turn after each
  expect(between).toBeGreaterThanOrEqual(10);
});

test('an answer is worked out once while its results stand; a failure and what is old are not kept', async () => {
  const kept = new KeptAnswers<number>();
  const [now, later] = [readerOf(), readerOf()];
  let made = 0;
  const make = () => Promise.resolve(++made);
  expect(await Promise.all([kept.get(now, 'a', make), kept.get(now, 'a', make), kept.get(now, 'b', make)])).toEqual([1, 1, 2]);
  expect(await kept.get(later, 'a', make)).toBe(3);
  expect(await kept.get(later, 'a', make)).toBe(3);
  const fail = () => Promise.reject<number>(new Error('broken'));
  await expect(kept.get(later, 'c', fail)).rejects.toThrow('broken');
  expect(await kept.get(later, 'c', make)).toBe(4);
  // many questions do not pile up
  for (let i = 0; i < 150; i++) await kept.get(later, `q${i}`, make);
  expect(await kept.get(later, 'a', make)).toBeGreaterThan(4);
});
