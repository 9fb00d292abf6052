import { expect, test } from '@jest/globals';
import { forWhom } from './forWhom.js';

const nobody = { people: 0, better: 0, worse: 0, come: 0, gone: 0 };

test('for whom something changed, in a sentence', () => {
  expect(forWhom(null)).toBeNull();
  expect(forWhom(nobody)).toBe('Nobody’s verdict became another.');
  expect(forWhom({ ...nobody, people: 1, better: 1 })).toBe('For 1 person: 1 crossing better.');
  expect(forWhom({ people: 12, better: 20, worse: 2, come: 0, gone: 1 })).toBe('For 12 people: 20 crossings better, 2 worse, 1 no more.');
});
