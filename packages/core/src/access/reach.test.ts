import { describe, expect, test } from '@jest/globals';
import { Group, Person, Publication } from '@underpass/contracts';
import { AccessIndex, chainOf } from './index.js';

const group = (id: string, rank: number, more: { memberOf?: string[]; publications?: string[] } = {}) =>
  Group.parse({ id, name: id, rank, ...more });
const person = (id: string, ...groups: string[]) => Person.parse({ id, name: id, kind: 'staff', location: 'hall', groups });
const publication = (id: string, resources: string[], portals: string[] = []) =>
  Publication.parse({ id, name: id, kind: 'apps', pool: 'pool', resources, portals });

/** Clerks are staff, staff are everybody; two publications give the same, one of them at no portal. */
const estate = {
  group: [
    group('everybody', 0, { publications: ['mail'] }),
    group('staff', 10, { memberOf: ['everybody'], publications: ['tables-hidden'] }),
    group('clerks', 20, { memberOf: ['staff'], publications: ['tickets'] }),
    group('deputies', 20, { memberOf: ['everybody'], publications: ['tables'] }),
    group('alone', 5),
  ],
  publication: [
    publication('mail', ['mailbox'], ['inner', 'outer']),
    publication('tables', ['timetable', 'rota'], ['inner']),
    publication('tables-hidden', ['timetable']),
    publication('tickets', ['counter'], ['inner']),
    publication('unheld', ['mailbox'], ['inner']),
  ],
  person: [
    person('ann', 'clerks'),
    person('bob', 'deputies', 'clerks'),
    person('cid'),
    person('dot', 'alone', 'gone'),
    person('eve', 'staff'),
  ],
};
const index = AccessIndex.of(estate);

describe('what groups come to', () => {
  test('groups from the lowest rank to the highest, those of one rank by their id', () => {
    expect(index.ofPerson('ann').groups).toEqual(['everybody', 'staff', 'clerks']);
    expect(index.ofPerson('bob').groups).toEqual(['everybody', 'staff', 'clerks', 'deputies']);
    // the order in which somebody was put into them does not count
    expect(index.of(['clerks', 'deputies'])).toEqual(index.of(['deputies', 'clerks']));
    expect(index.of(['clerks', 'clerks']).groups).toEqual(['everybody', 'staff', 'clerks']);
    const level = AccessIndex.of({ ...estate, group: [group('b', 1), group('c', 1), group('a', 1)], person: [] });
    expect([level.of(['c', 'b', 'a']).groups, level.of(['a', 'b', 'c']).groups]).toEqual([
      ['a', 'b', 'c'],
      ['a', 'b', 'c'],
    ]);
  });

  test('in no group, in one that is gone, or nobody: nothing', () => {
    const none = { groups: [], publications: [], held: [], seen: [] };
    expect(index.ofPerson('cid')).toEqual(none);
    expect(index.ofPerson('nobody')).toEqual(none);
    expect(index.of(['gone'])).toEqual(none);
    expect(index.ofPerson('dot')).toEqual({ ...none, groups: ['alone'] });
    // a group within one that is gone is a group all the same
    const orphan = AccessIndex.of({ ...estate, group: [group('a', 1, { memberOf: ['gone'], publications: ['mail', 'gone'] })] });
    expect(orphan.of(['a'])).toMatchObject({ groups: ['a'], publications: ['mail'] });
  });

  test('every publication that is held, attached or not; what is seen is what a portal has', () => {
    const ann = index.ofPerson('ann');
    expect([...ann.publications].sort()).toEqual(['mail', 'tables-hidden', 'tickets']);
    expect(ann.held.map(({ resource }) => resource)).toEqual(['counter', 'timetable', 'mailbox']);
    expect(ann.seen.map(({ resource }) => resource)).toEqual(['counter', 'mailbox']);
    expect(ann.held.find(({ resource }) => resource === 'timetable')).toEqual({
      ...{ resource: 'timetable', groups: ['clerks', 'staff'], publication: 'tables-hidden', portal: null },
    });
    // the first portal of several is told
    expect(ann.seen.find(({ resource }) => resource === 'mailbox')).toMatchObject({
      portal: 'inner',
      groups: ['clerks', 'staff', 'everybody'],
    });
  });

  test('a way through a portal comes before a shorter one without', () => {
    // bob holds the timetable hidden through clerks and staff, and seen through deputies
    const bob = index.ofPerson('bob').held.find(({ resource }) => resource === 'timetable');
    expect(bob).toEqual({ resource: 'timetable', groups: ['deputies'], publication: 'tables', portal: 'inner' });
    // whichever comes first: the hidden one by the lower rank, or by the higher
    const other = AccessIndex.of({
      ...estate,
      group: [group('low', 1, { publications: ['tables'] }), group('high', 2, { publications: ['tables-hidden'] })],
      person: [],
    });
    expect(other.of(['low', 'high']).held.find(({ resource }) => resource === 'timetable')?.publication).toBe('tables');
    const longer = AccessIndex.of({
      ...estate,
      group: [
        group('low', 1, { publications: ['tables-hidden'] }),
        group('high', 2, { memberOf: ['top'] }),
        group('top', 3, { publications: ['tables'] }),
      ],
      person: [],
    });
    expect(longer.of(['low', 'high']).held.find(({ resource }) => resource === 'timetable')).toMatchObject({
      publication: 'tables',
      groups: ['high', 'top'],
    });
  });

  test('of two seen ways the shorter, of two as long that of the lower rank; of two hidden ones the same', () => {
    const two = (portals: string[]) =>
      AccessIndex.of({
        group: [
          group('low', 1, { memberOf: ['top'] }),
          group('mid', 2, { publications: ['near'] }),
          group('high', 3, { publications: ['far'] }),
          group('top', 4, { publications: ['far'] }),
        ],
        publication: [publication('near', ['x'], portals), publication('far', ['x'], portals)],
        person: [],
      });
    for (const portals of [['p'], []]) {
      const of = (...groups: string[]) => two(portals).of(groups).held[0];
      expect(of('low', 'mid')).toMatchObject({ groups: ['mid'], publication: 'near' });
      expect(of('mid', 'high')).toMatchObject({ groups: ['mid'], publication: 'near' });
      expect(of('high', 'mid')).toMatchObject({ groups: ['mid'], publication: 'near' });
      expect(of('low')).toMatchObject({ groups: ['low', 'top'], publication: 'far' });
    }
  });

  test('a group that is reached in two ways is told by the shorter, once', () => {
    const diamond = AccessIndex.of({
      ...estate,
      group: [
        group('a', 1, { memberOf: ['b', 'c'] }),
        group('b', 2, { memberOf: ['c'] }),
        group('c', 3, { memberOf: ['d'] }),
        group('d', 4, { publications: ['mail'] }),
      ],
      person: [],
    });
    expect(diamond.of(['a']).groups).toEqual(['a', 'b', 'c', 'd']);
    expect(diamond.of(['a']).held).toEqual([{ resource: 'mailbox', groups: ['a', 'c', 'd'], publication: 'mail', portal: 'inner' }]);
  });

  test('a chain has every link, and no portal where there is none', () => {
    const [counter, timetable] = index.ofPerson('ann').held;
    expect(chainOf('ann', counter!)).toEqual(['ann', 'clerks', 'tickets', 'inner', 'counter']);
    expect(chainOf('ann', timetable!)).toEqual(['ann', 'clerks', 'staff', 'tables-hidden', 'timetable']);
  });
});

describe('and backwards', () => {
  const sorted = (people: Set<string>) => [...people].sort();
  test('who is in a group, directly or through another', () => {
    expect(sorted(index.peopleIn('everybody'))).toEqual(['ann', 'bob', 'eve']);
    expect(sorted(index.peopleIn('staff'))).toEqual(['ann', 'bob', 'eve']);
    expect(sorted(index.peopleIn('deputies'))).toEqual(['bob']);
    expect(sorted(index.peopleIn('nothing'))).toEqual([]);
  });
  test('who holds a publication, and who sees a resource', () => {
    expect(sorted(index.peopleWith('tables-hidden'))).toEqual(['ann', 'bob', 'eve']);
    expect(sorted(index.peopleWith('unheld'))).toEqual([]);
    expect(sorted(index.peopleWith('nothing'))).toEqual([]);
    // the hidden publication gives the timetable to three, and is seen by none of them
    expect(sorted(index.peopleSeeing('timetable'))).toEqual(['bob']);
    expect(sorted(index.peopleSeeing('mailbox'))).toEqual(['ann', 'bob', 'eve']);
    expect(sorted(index.peopleSeeing('nothing'))).toEqual([]);
  });
  test('groups in a loop end', () => {
    const loop = AccessIndex.of({
      ...estate,
      group: [group('a', 1, { memberOf: ['b'] }), group('b', 2, { memberOf: ['a'], publications: ['mail'] })],
      person: [person('ann', 'a')],
    });
    expect(sorted(loop.peopleIn('b'))).toEqual(['ann']);
    expect(loop.ofPerson('ann')).toMatchObject({ groups: ['a', 'b'], publications: ['mail'] });
    expect(loop.ofPerson('ann').held[0]?.groups).toEqual(['a', 'b']);
  });
});

describe('what was worked out is kept', () => {
  test('for one group, for several in any order, and for nobody', () => {
    expect(index.of(['clerks'])).toBe(index.of(['clerks']));
    expect(index.of(['clerks', 'deputies'])).toBe(index.of(['deputies', 'clerks']));
    expect(index.of([])).toBe(index.ofPerson('cid'));
    // not for others whose names run together to the same
    expect(index.of(['staff', 'clerks'])).not.toBe(index.of(['clerks']));
    const odd = AccessIndex.of({ ...estate, group: [group('ab', 1), group('c', 1), group('a', 1), group('bc', 1)], person: [] });
    expect(odd.of(['ab', 'c']).groups).toEqual(['ab', 'c']);
    expect(odd.of(['a', 'bc']).groups).toEqual(['a', 'bc']);
    // what was asked for is left as it was
    const asked = ['staff', 'clerks'];
    index.of(asked);
    expect(asked).toEqual(['staff', 'clerks']);
  });

  test('over other people it stays; over other groups or publications it does not', () => {
    const lists = (index as unknown as { lists: never }).lists;
    const { people, groups, publications } = index;
    const others = new Map([['zoe', person('zoe', 'clerks')]]);
    const moved = index.after({ person: others, group: groups, publication: publications } as never, lists);
    expect(moved.sharesReach(index)).toBe(true);
    expect(moved.ofPerson('zoe')).toBe(index.ofPerson('ann'));
    const regrouped = index.after({ person: people, group: new Map(groups), publication: publications } as never, lists);
    const republished = index.after({ person: people, group: groups, publication: new Map(publications) } as never, lists);
    for (const other of [regrouped, republished]) {
      expect(other.sharesReach(index)).toBe(false);
      expect(other.ofPerson('ann')).not.toBe(index.ofPerson('ann'));
      expect(other.ofPerson('ann')).toEqual(index.ofPerson('ann'));
    }
  });
});
