import { describe, expect, test } from '@jest/globals';
import type { Patch } from '@underpass/contracts';
import fc from 'fast-check';
import { anyAccess, plainly } from '../../test/anyAccess.js';
import { twoPlaces } from '../../test/twoPlaces.js';
import { modelOf } from '../estate/index.js';
import { consequenceOf, doing, fieldsTo, made, overlay } from './index.js';

const model = twoPlaces({ person: { bo: { name: 'Bo', kind: 'staff', location: 'hall-a', groups: ['staff-a'] } } });
const after = (...patches: Patch[]) => consequenceOf(model, overlay(model, doing(...patches), 0));

describe('what a change comes to for whom', () => {
  test('a whole group moved: each loses the one and gains the other, nobody else changes', () => {
    const all = { gains: ['app-b', 'desk-b'], loses: ['app-a', 'desk-a'], desktops: [] };
    const moved = after({ do: 'move', leave: 'staff-a', join: 'staff-b' });
    const sorted = moved.map((each) => ({ ...each, gains: [...each.gains].sort(), loses: [...each.loses].sort() }));
    expect(sorted).toEqual([
      { person: 'ann-a', ...all },
      { person: 'bo', ...all },
    ]);
    // whoever is named and is not in the group they leave is not written
    expect(made(model, doing({ do: 'move', people: ['ann-b'], leave: 'staff-a', join: null }), 0).writes).toEqual([]);
  });

  test('a choice between desktops is told where the change makes it, not where it stood before', () => {
    const [joins] = after({ do: 'move', people: ['bo'], leave: null, join: 'staff-b' });
    expect(joins?.desktops).toEqual(expect.arrayContaining(['desk-a', 'desk-b']));
    const both = twoPlaces({ person: { bo: { name: 'Bo', kind: 'staff', location: 'hall-a', groups: ['staff-a', 'staff-b'] } } });
    const less = (publications: string[]) =>
      consequenceOf(both, overlay(both, doing(fieldsTo('group', 'staff-b', { publications })), 0)).find(({ person }) => person === 'bo');
    expect(less(['desks-b'])).toEqual({ person: 'bo', gains: [], loses: ['app-b'], desktops: [] });
    expect(less(['apps-b'])).toEqual({ person: 'bo', gains: [], loses: ['desk-b'], desktops: [] });
  });

  test('what is of no account to lists comes to nothing, and who is removed is not told of', () => {
    expect(after(fieldsTo('location', 'hall-a', { downMbps: 1 }))).toEqual([]);
    expect(after(fieldsTo('person', 'ann-a', { name: 'Other' }))).toEqual([]);
    expect(after({ do: 'remove', kind: 'person', id: 'ann-a' })).toEqual([]);
    expect(after(fieldsTo('publication', 'apps-a', { portals: [] })).map(({ person, loses }) => `${person} ${loses.join()}`)).toEqual([
      'ann-a app-a',
      'bo app-a',
    ]);
  });

  test('is the difference between two plain readings, for everybody', () => {
    const change = fc.record({
      person: fc.nat(7),
      group: fc.nat(7),
      publication: fc.nat(5),
      what: fc.constantFrom('join', 'leave', 'hold', 'detach'),
    });
    fc.assert(
      fc.property(anyAccess, change, (any, { person, group, publication, what }) => {
        const before = modelOf(any, []);
        const [p, g, b] = [
          any.person[person % any.person.length]!,
          any.group[group % any.group.length]!,
          any.publication[publication % any.publication.length]!,
        ];
        const patch: Patch =
          what === 'join'
            ? { do: 'change', kind: 'person', id: p.id, add: { groups: [g.id] } }
            : what === 'leave'
              ? { do: 'change', kind: 'person', id: p.id, drop: { groups: [g.id] } }
              : what === 'hold'
                ? { do: 'change', kind: 'group', id: g.id, add: { publications: [b.id] } }
                : fieldsTo('publication', b.id, { portals: [] });
        const then = overlay(before, doing(patch), 0);
        const fresh = { person: [...then.people.values()], group: [...then.groups.values()], publication: [...then.publications.values()] };
        const expected = any.person.flatMap(({ id }) => {
          const [was, is] = [plainly(any, id), plainly({ ...any, ...fresh }, id)];
          const [gains, loses] = [is.filter((each) => !was.includes(each)), was.filter((each) => !is.includes(each))];
          return gains.length + loses.length ? [{ person: id, gains, loses, desktops: [] }] : [];
        });
        const told = consequenceOf(before, then).map((each) => ({ ...each, gains: [...each.gains].sort(), loses: [...each.loses].sort() }));
        const byPerson = (x: { person: string }, y: { person: string }) => (x.person < y.person ? -1 : 1);
        expect(told.sort(byPerson)).toEqual(expected.sort(byPerson));
      }),
      { numRuns: 150 },
    );
  });
});
