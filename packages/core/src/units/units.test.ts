import { expect, test } from '@jest/globals';
import { assumed, bad, between, exact, good } from './index.js';

test('an estimate says its value, its interval, its source and by whom; an exact one has no width', () => {
  expect(between(5, 4, 7, 'measured', 'by Ann', 40)).toEqual({
    value: 5,
    low: 4,
    high: 7,
    source: 'measured',
    note: 'by Ann',
    samples: 40,
  });
  expect(exact(5, 'declared', 'typed')).toEqual({ value: 5, low: 5, high: 5, source: 'declared', note: 'typed' });
  expect(assumed(5, 1, 9, 'our default')).toEqual({ value: 5, low: 1, high: 9, source: 'assumed', note: 'our default' });
});

test('a result is good with its value, or bad with where, what and what would be right', () => {
  expect(good(3)).toEqual({ ok: true, value: 3 });
  expect(bad('line 2', 'is empty', 'Give a number')).toEqual({
    ok: false,
    fault: { place: 'line 2', problem: 'is empty', remedy: 'Give a number' },
  });
});
