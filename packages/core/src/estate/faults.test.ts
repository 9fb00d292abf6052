import { expect, test } from '@jest/globals';
import { demoEstate } from '../../test/demo.js';
import { faultsOfEstate } from './index.js';

const { estate } = demoEstate();
const told = (change: Partial<typeof estate>) =>
  faultsOfEstate({ ...estate, ...change }).map(({ kind, id, field, problem }) => [kind, id, field, problem]);

test('what shows only in the whole is told at the object it stands in', () => {
  expect(told({})).toEqual([]);
  expect(told({ group: estate.group.map((group) => (group.id === 'watchkeepers' ? { ...group, memberOf: ['control'] } : group)) })).toEqual(
    [['group', 'control', 'memberOf', 'the groups go round in a loop: control in watchkeepers in control']],
  );
  const publication = (change: object) => estate.publication.map((each) => (each.id === 'documents' ? { ...each, ...change } : each));
  expect(told({ publication: publication({ resources: ['documents', 'payroll'] }) })).toEqual([
    ['publication', 'documents', 'resources', '“payroll” is of the pool finance, the publication of documents'],
  ]);
  expect(told({ publication: publication({ kind: 'desktop' }) })).toEqual([
    ['publication', 'documents', 'resources', '“documents” is an application in a publication of desktops'],
  ]);
  expect(told({ pool: estate.pool.map((pool) => (pool.id === 'guest' ? { ...pool, signInGroups: ['nobody'] } : pool)) })).toEqual([
    ['pool', 'guest', 'signInGroups', 'no group has the id “nobody”'],
  ]);
  const [guest] = estate.person.filter((person) => person.guest);
  expect(told({ person: [{ ...guest!, kind: 'staff' }] })[0]?.slice(0, 3)).toEqual(['person', guest!.id, 'guest']);
  const [set] = estate.requirement;
  expect(told({ requirement: [{ ...set!, appliesTo: { any: [{ not: { fact: 'setting.session.nothing', is: true } }] } }] })).toEqual([
    ['requirement', set!.id, 'appliesTo', 'no setting is called session.nothing'],
  ]);
});
