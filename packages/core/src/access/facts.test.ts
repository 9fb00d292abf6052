import { describe, expect, test } from '@jest/globals';
import type { RequirementSet } from '@underpass/contracts';
import { evaluateSet, evaluateTest, factsIn, factsOfSet } from './requirements.js';

type Test = Parameters<typeof evaluateTest>[0];
const ask = (value: unknown, test: Partial<Test>) =>
  evaluateTest({ fact: 'x', ...test } as Test, (fact) => (fact === 'x' ? value : undefined));

describe('one test over one fact', () => {
  test.each<[string, unknown, Partial<Test>, boolean | null]>([
    ['is so', 'a', { is: 'a' }, true],
    ['is another', 'b', { is: 'a' }, false],
    ['is not so', 'b', { isNot: 'a' }, true],
    ['is so, and should not be', 'a', { isNot: 'a' }, false],
    ['whether it is missing is not asked of what is missing', undefined, { isNot: 'a' }, null],
    ['null is missing', null, { is: 'a' }, null],
    ['known', 0, { known: true }, true],
    ['false is known', false, { known: true }, true],
    ['null is not known', null, { known: true }, false],
    ['undefined is not known', undefined, { known: false }, true],
    ['one of several', 5, { oneOf: [4, 5] }, true],
    ['none of several', 6, { oneOf: [4, 5] }, false],
    ['numbers: at', 5, { atLeast: 5 }, true],
    ['numbers: just below', 4.99, { atLeast: 5 }, false],
    ['numbers: below, at it', 5, { below: 5 }, false],
    ['numbers: just below it', 4.99, { below: 5 }, true],
    // as versions 10 would be compared field by field: 9.5 is above 9.10 as a number, and below it as a version
    ['two numbers are no versions', 9.5, { atLeast: 9.1 }, true],
    ['two negative numbers', -3, { below: -2 }, true],
    ['a number and a version', 4, { atLeast: '3.10' }, true],
    ['a version and a number', '4.1', { atLeast: 4 }, true],
    ['a version is no text: 3.10 is above 3.9', '3.10', { atLeast: '3.9' }, true],
    ['a text that begins with no digit', 'v4', { atLeast: '3' }, null],
    ['a text that has a digit somewhere', 'build4', { below: '9' }, null],
    ['a yes or no is compared with nothing', true, { atLeast: 1 }, null],
    ['a list holds it', ['base', 'agent 2.1'], { includes: 'agent' }, true],
    ['a list holds it with its version', ['base', 'agent 2.1'], { includes: 'agent 2.1' }, true],
    ['a list does not', ['base'], { includes: 'agent' }, false],
    ['no list', 'base', { includes: 'base' }, null],
    ['in the order', ['a', 'b 2', 'c'], { order: ['a', 'b', 'c'] }, true],
    ['the first of the list counts', ['a', 'b'], { order: ['a'] }, true],
    ['with others between', ['a', 'x', 'b'], { order: ['a', 'b'] }, true],
    ['the other way round', ['b', 'a'], { order: ['a', 'b'] }, false],
    ['one is missing', ['a', 'c'], { order: ['a', 'b', 'c'] }, false],
    ['the first is missing', ['b', 'c'], { order: ['a', 'b', 'c'] }, false],
    ['the same twice is no order', ['a'], { order: ['a', 'a'] }, false],
    ['an order of what is no list', 'a', { order: ['a'] }, null],
  ])('%s', (_, value, test, wanted) => expect(ask(value, test)).toBe(wanted));
});

// facts of these tests are none of an estate, so that no set is read from a file
const condition = (id: string, when: object, alternatives: object[] = []) => ({
  id,
  when,
  alternatives: alternatives.map((each) => ({ when: each })),
});
const set = (...conditions: object[]) => ({ appliesTo: { fact: 'who', is: true }, conditions }) as unknown as RequirementSet;

test('the facts that a test asks for, however deep, and those of a whole set', () => {
  expect(factsIn({ fact: 'a', is: true })).toEqual(['a']);
  expect(factsIn({ all: [{ fact: 'a', is: true }, { any: [{ fact: 'b', is: 1 }, { not: { fact: 'c', is: 1 } }] }] })).toEqual([
    'a',
    'b',
    'c',
  ]);
  const whole = set(
    condition('one', { fact: 'a', is: true }, [
      { fact: 'b', is: true },
      {
        all: [
          { fact: 'c', is: 1 },
          { fact: 'd', is: 1 },
        ],
      },
    ]),
    condition('two', { not: { fact: 'e', is: 1 } }),
  );
  expect(factsOfSet(whole)).toEqual(['who', 'a', 'b', 'c', 'd', 'e']);
});

test('the worst condition decides: not met, then not known, then done otherwise', () => {
  const whole = set(
    condition('met', { fact: 'yes', is: true }),
    condition('asked', { fact: 'asked', is: true }, [{ fact: 'other', is: true }]),
  );
  const readiness = (asked: unknown, other: unknown) =>
    evaluateSet(whole, (fact) => ({ yes: true, asked, other })[fact as 'yes']).readiness;
  expect([
    readiness(true, undefined),
    readiness(false, true),
    readiness(undefined, true),
    readiness(undefined, false),
    readiness(false, false),
    readiness(false, undefined),
  ]).toEqual(['ready', 'fallback', 'fallback', 'not known', 'not ready', 'not ready']);
});
