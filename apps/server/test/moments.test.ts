import { afterEach, beforeEach, expect, jest, test } from '@jest/globals';
import { completed, kindTraits, readFolder } from '@underpass/contracts';
import { FactsReader, modelOf, summariseCrossing, type Over } from '@underpass/core';
import { Subject } from 'rxjs';
import { ResultsService } from '../src/crossing/results.service.js';
import type { EstateStore, StoreChange } from '../src/estate/estate.store.js';
import { demoFiles } from './server.js';

/** From here on the guest P381 may not come any more; their desk at home is OS-003. */
const endMs = Date.parse('2026-12-12T00:00:00Z');
const guest = 'P381';

let store: Pick<EstateStore, 'version' | 'model' | 'refresh'> & { changes: Subject<StoreChange> };
let results: ResultsService;

beforeEach(async () => {
  jest.useFakeTimers({ now: endMs - 1000, doNotFake: ['setImmediate', 'nextTick', 'queueMicrotask', 'performance'] });
  const { estate, measurements } = readFolder(new Map(Object.entries(demoFiles())));
  const model = modelOf(estate, measurements, { complete: completed, traits: kindTraits });
  store = { version: 0, model, changes: new Subject(), refresh: () => Promise.resolve() };
  // without a version nothing is kept of it, so no database is asked
  results = new ResultsService(store as unknown as EstateStore, {} as never, { role: 'server' } as never);
  await results.onModuleInit();
  before = standing();
  expect([...before.keys()].some((id) => id.startsWith(`${guest}~`))).toBe(true);
}, 60_000);
afterEach(async () => {
  await results.onApplicationShutdown();
  jest.useRealTimers();
});

const edit = (): void => {
  const before = store.model.find('host', 'SM-H03')!;
  const over: Over = {
    writes: [{ kind: 'host', id: 'SM-H03', before, after: { ...before, name: 'Another name' } }],
    measurements: [],
    supposed: [],
  };
  store.model = store.model.after(over).settled();
  store.changes.next({ version: 0, cause: 'a name', over });
};
const summariesAt = (atMs: number): Map<string, string> => {
  const reader = new FactsReader(store.model, atMs);
  return new Map(store.model.crossings.map((ref) => [ref.id, JSON.stringify(summariseCrossing(reader.read(ref)!))]));
};
const standing = (): Map<string, string> =>
  new Map(store.model.crossings.map(({ id }) => [id, JSON.stringify(results.summary(id) ?? null)]));
/** Every result as it stands, against all of them evaluated anew; what a guest may not do any more is told of them. */
const expectAnew = (atMs: number): void => {
  expect(standing()).toEqual(summariesAt(atMs));
  for (const [id, summary] of standing()) if (id.startsWith(`${guest}~`)) expect(summary).not.toBe(before.get(id));
};
let before: Map<string, string>;

test('a guest whose access ends is told as blocked when it does', async () => {
  await jest.advanceTimersByTimeAsync(1000);
  await results.settled();
  expectAnew(endMs);
});

test('an edit that comes just after a moment does not pass it over', async () => {
  // the machine was busy: the clock is past the moment, its timer has not gone off
  jest.setSystemTime(endMs + 500);
  edit();
  await results.settled();
  await jest.advanceTimersByTimeAsync(1);
  await results.settled();
  expectAnew(endMs + 501);
});

test('a timer that goes off a millisecond early brings what is so at its moment', async () => {
  jest.setSystemTime(endMs - 1001);
  await jest.advanceTimersByTimeAsync(1000);
  await results.settled();
  expect(Date.now()).toBeLessThan(endMs);
  expectAnew(endMs);
});

test('an evaluation that takes longer than a moment tells how far it is, a short one does not', async () => {
  const told: { done: number; total: number }[] = [];
  results.progress.subscribe((progress) => told.push(progress));
  const everything = async () => {
    store.changes.next({ version: 0, cause: 'all', over: null });
    await results.settled();
  };
  const { now } = performance;
  const from = now.call(performance);
  // a clock on which nothing takes any time, then one on which everything takes a thousand times as long
  performance.now = () => from;
  await everything();
  expect(told).toEqual([]);
  performance.now = () => from + 1000 * (now.call(performance) - from);
  try {
    await everything();
  } finally {
    performance.now = now;
  }
  const total = store.model.crossings.length;
  expect(told.length).toBeGreaterThan(2);
  expect(told.every((each, i) => each.total === total && each.done <= total && (i === 0 || each.done > told[i - 1]!.done))).toBe(true);
});

test('while everything is evaluated anew, the Board and the list are told whole: as before, or as they are now', async () => {
  const { now } = performance;
  const from = now.call(performance);
  // everything takes a thousand times as long, so that others are served between every few crossings
  performance.now = () => from + 1000 * (now.call(performance) - from);
  const whole = [results.count, results.sorted().length, JSON.stringify(results.board().people)];
  const seen = new Set<string>();
  let over = false;
  const watching = (async () => {
    while (!over) {
      seen.add(JSON.stringify([results.count, results.sorted().length, JSON.stringify(results.board().people)]));
      await new Promise((resolve) => setImmediate(resolve));
    }
  })();
  store.changes.next({ version: 0, cause: 'all', over: null });
  try {
    await results.settled();
  } finally {
    performance.now = now;
    over = true;
  }
  await watching;
  expect([...seen]).toEqual([JSON.stringify(whole)]);
});
