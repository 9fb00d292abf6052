import { expect, test } from '@jest/globals';
import type { OpenSession } from '@underpass/contracts';
import { byUse, leftBehindOutcomes } from './leftBehind.js';

const session = (id: string, resource: string, usedAt: string) =>
  ({ id, resource, usedAt, resourceName: resource.toUpperCase() }) as OpenSession & { resourceName: string };

test('the one used last comes first; of those used at the same time the one of the lower id', () => {
  const [a, b, c, d] = [
    session('a', 'x', '2026-11-20T08:00:00Z'),
    session('b', 'x', '2026-11-20T09:00:00Z'),
    session('c', 'x', '2026-11-20T08:00:00Z'),
    session('d', 'x', '2026-11-19T23:00:00Z'),
  ];
  const given = [c, d, b, a];
  expect(byUse(given).map(({ id }) => id)).toEqual(['b', 'a', 'c', 'd']);
  expect(byUse([a, c, b, d]).map(({ id }) => id)).toEqual(['b', 'a', 'c', 'd']);
  expect(byUse([d, b, c, a]).map(({ id }) => id)).toEqual(['b', 'a', 'c', 'd']);
  // what was given stays as it was
  expect(given).toEqual([c, d, b, a]);
  expect(byUse([c, a]).map(({ id }) => id)).toEqual(['a', 'c']);
});

test('what each choice does, word for word: one session of something else', () => {
  expect(leftBehindOutcomes([session('s1', 'hull', '2026-11-20T08:15:59Z')], { id: 'mail', name: 'Mail' })).toEqual([
    { choice: 'ask', takesUp: [], startsNew: false, does: 'The portal asks which to take up: HULL, or a new one', warning: null },
    {
      choice: 'most recent',
      takesUp: ['s1'],
      startsNew: false,
      does: 'Takes up HULL, last used 2026-11-20 08:15',
      warning: 'HULL opens although Mail was wanted',
    },
    { choice: 'none', takesUp: [], startsNew: true, does: 'Starts Mail anew; what was left stays where it is', warning: null },
    { choice: 'all', takesUp: ['s1'], startsNew: true, does: 'Opens HULL and Mail', warning: '2 sessions open on top of each other' },
  ]);
});

test('the one that was wanted alone: taken up, it is right; begun anew, its work is missing', () => {
  expect(leftBehindOutcomes([session('s1', 'mail', '2026-11-20T08:15:00Z')], { id: 'mail', name: 'Mail' })).toEqual([
    { choice: 'ask', takesUp: [], startsNew: false, does: 'The portal asks which to take up: MAIL, or a new one', warning: null },
    { choice: 'most recent', takesUp: ['s1'], startsNew: false, does: 'Takes up MAIL, last used 2026-11-20 08:15', warning: null },
    {
      ...{ choice: 'none', takesUp: [], startsNew: true, does: 'Starts Mail anew; what was left stays where it is' },
      warning: 'Work left open in Mail is not there, and its place on the host stays taken',
    },
    { choice: 'all', takesUp: ['s1'], startsNew: false, does: 'Opens MAIL', warning: null },
  ]);
});

test('two, of which the older was wanted', () => {
  const [, recent, none, all] = leftBehindOutcomes(
    [session('s1', 'mail', '2026-11-20T08:15:00Z'), session('s2', 'hull', '2026-11-21T08:15:00Z')],
    { id: 'mail', name: 'Mail' },
  );
  expect(recent).toMatchObject({ takesUp: ['s2'], warning: 'HULL opens although Mail was wanted' });
  expect(none?.warning).toContain('Work left open in Mail');
  expect(all).toEqual({
    choice: 'all',
    takesUp: ['s2', 's1'],
    startsNew: false,
    does: 'Opens HULL, MAIL',
    warning: '2 sessions open on top of each other',
  });
});
