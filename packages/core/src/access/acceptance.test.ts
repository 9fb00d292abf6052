import { expect, test } from '@jest/globals';
import { Group, Person, Publication } from '@underpass/contracts';
import { acceptancePlan, AccessIndex } from './index.js';

const group = (id: string, publications: string[]) => Group.parse({ id, name: id, rank: 1, publications });
const person = (id: string, ...groups: string[]) => Person.parse({ id, name: id, kind: 'staff', location: 'hall', groups });
const publication = (id: string, resources: string[], portals: string[] = ['inner']) =>
  Publication.parse({ id, name: id, kind: 'apps', pool: 'pool', resources, portals });

const estate = {
  group: [group('a', ['one', 'hidden']), group('b', ['two']), group('c', ['three']), group('empty', ['lonely'])],
  publication: [
    publication('one', ['x']),
    publication('two', ['y', 'z']),
    publication('three', ['w']),
    publication('hidden', ['h'], []),
    publication('lonely', ['l']),
    publication('unheld', ['u']),
  ],
  person: [
    person('zed', 'a'),
    person('amy', 'b'),
    person('bob', 'b', 'a'),
    person('cid', 'a', 'b'),
    person('dan'),
    person('eve', 'c'),
    person('fay', 'empty2'),
  ],
};

test('who sees the same is one set: the largest first, of the same size by the first in it', () => {
  expect(acceptancePlan(AccessIndex.of(estate)).sets).toEqual([
    { people: ['bob', 'cid'], resources: ['x', 'y', 'z'] },
    { people: ['amy'], resources: ['y', 'z'] },
    { people: ['eve'], resources: ['w'] },
    { people: ['zed'], resources: ['x'] },
  ]);
  // the order in which people stand does not count
  const turned = acceptancePlan(AccessIndex.of({ ...estate, person: [...estate.person].reverse() }));
  expect(turned.sets.map(({ people }) => people)).toEqual([['cid', 'bob'], ['amy'], ['eve'], ['zed']]);
});

test('the fewest who see every publication that anybody sees; of those who see the same one who can sign in', () => {
  const index = AccessIndex.of(estate);
  expect(acceptancePlan(index)).toMatchObject({ testers: ['bob', 'eve'], optimal: true });
  const able = (...ids: string[]) => acceptancePlan(index, ({ id }) => ids.includes(id)).testers;
  expect(able('cid', 'eve')).toEqual(['cid', 'eve']);
  expect(able('bob', 'cid', 'eve')).toEqual(['bob', 'eve']);
  // where nobody of them can, the first stands for the rest
  expect(able('eve')).toEqual(['bob', 'eve']);
  const three = AccessIndex.of({ ...estate, person: [person('p', 'a'), person('q', 'a'), person('r', 'a')] });
  expect(acceptancePlan(three, ({ id }) => id !== 'p').testers).toEqual(['q']);
});

test('publications of which those who see them come to the same are one, those that run together are not', () => {
  const index = AccessIndex.of({
    group: [group('g', ['a', 'bc']), group('h', ['ab', 'c'])],
    publication: [publication('a', ['r1']), publication('bc', ['r2']), publication('ab', ['r1', 'r2']), publication('c', ['r2'])],
    person: [person('p', 'g'), person('q', 'h')],
  });
  // both see r1 and r2, through other publications: one set of what is seen, two testers
  expect(acceptancePlan(index)).toMatchObject({ sets: [{ people: ['p', 'q'] }], testers: ['p', 'q'] });
});

test('what nobody sees, with the reason', () => {
  expect(acceptancePlan(AccessIndex.of(estate)).unseen).toEqual([
    { publication: 'hidden', because: 'attached to no portal' },
    { publication: 'lonely', because: 'nobody is in its groups' },
    { publication: 'unheld', because: 'held by no group' },
  ]);
  expect(acceptancePlan(AccessIndex.of({ group: [], publication: [], person: [] }))).toEqual({
    sets: [],
    testers: [],
    optimal: true,
    unseen: [],
  });
});
