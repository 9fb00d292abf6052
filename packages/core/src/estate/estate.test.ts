import { describe, expect, test } from '@jest/globals';
import { demoEstate } from '../../test/demo.js';
import { difference, modelOf, same } from './index.js';

const { estate, measurements } = demoEstate();

describe('the estate', () => {
  test('its crossings are each person × the endpoints they use × the resources their groups hold', () => {
    const model = modelOf(estate, measurements);
    // a plain reading of its own: groups upwards until nothing is added
    const upwards = (ids: string[]): string[] => {
      const more = [...new Set([...ids, ...ids.flatMap((id) => estate.group.find((each) => each.id === id)?.memberOf ?? [])])];
      return more.length === ids.length ? ids : upwards(more);
    };
    const held = (groups: string[]) =>
      new Set(
        upwards(groups)
          .flatMap((id) => estate.group.find((each) => each.id === id)?.publications ?? [])
          .flatMap((id) => estate.publication.find((each) => each.id === id)?.resources ?? []),
      );
    const expected = estate.endpoint.flatMap((endpoint) =>
      [...new Set([endpoint.person, ...endpoint.users])].flatMap((id) => {
        const person = estate.person.find((each) => each.id === id);
        return person ? [...held(person.groups)].map((resource) => `${person.id}~${endpoint.id}~${resource}`) : [];
      }),
    );
    expect(model.crossings.map((ref) => ref.id).sort()).toEqual(expected.sort());
    const shared = estate.endpoint.find((endpoint) => endpoint.users.length > 1);
    expect(new Set(model.crossings.filter((ref) => ref.endpoint === shared?.id).map((ref) => ref.person)).size).toBeGreaterThan(1);
  });

  test('a difference names added and changed objects and fields, and sees through the order of keys', () => {
    expect(same({ a: 1, b: [1, { c: 2 }] }, { b: [1, { c: 2 }], a: 1 })).toBe(true);
    expect(same({ a: undefined }, {})).toBe(true);
    expect(same([1], { 0: 1 })).toBe(false);
    expect(difference(estate, estate).every((each) => each.change === 'unchanged')).toBe(true);
    const next = {
      ...estate,
      person: [
        { ...estate.person[0]!, name: 'Another Name' },
        { ...estate.person[1]!, id: 'NEW' },
      ],
    };
    expect(difference(estate, next).filter((each) => each.change !== 'unchanged')).toEqual([
      { kind: 'person', id: estate.person[0]?.id, change: 'changed', fields: ['name'] },
      { kind: 'person', id: 'NEW', change: 'added', fields: [] },
    ]);
  });
});
