import { expect, test } from '@jest/globals';
import type { Impact } from '@underpass/core';
import { effectSentence } from './effectSentence.js';

const counts = { clear: 0, limited: 0, blocked: 0, unknown: 0 };
const nothing: Impact = {
  before: counts,
  after: counts,
  crossings: 0,
  changedVerdict: 0,
  better: 0,
  worse: 0,
  come: 0,
  gone: 0,
  moves: [],
  losers: [],
  winners: [],
  newlyBlocked: 0,
  improved: 0,
  weakened: 0,
  lines: [],
  beside: null,
};

test('what an edit would do, in one sentence', () => {
  expect(effectSentence(nothing)).toBe('It touches no crossing.');
  expect(effectSentence({ ...nothing, crossings: 1 })).toBe('It touches 1 crossing; no verdict becomes another.');
  expect(effectSentence({ ...nothing, crossings: 12, changedVerdict: 3, better: 1, worse: 2 })).toBe(
    'It touches 12 crossings, 3 with another verdict: 1 gets better, 2 get worse.',
  );
  // better without another verdict
  expect(effectSentence({ ...nothing, crossings: 4, better: 4 })).toBe('It touches 4 crossings: 4 get better.');
  expect(effectSentence({ ...nothing, crossings: 5, come: 1, gone: 4 })).toBe('It touches 5 crossings: 1 comes to be, 4 would be no more.');
});
