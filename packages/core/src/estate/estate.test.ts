import { describe, expect, test } from '@jest/globals';
import { demoEstate } from '../../test/demo.js';
import { objectChanges, withObjectChanges } from '../crossing/index.js';
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

  test('applied and then reversed, an object change leaves the estate as it was', () => {
    const find = (kind: string, id: string) => (estate[kind as 'host'] as { id: string }[]).find((object) => object.id === id);
    const changes = objectChanges(
      [
        { type: 'object', kind: 'host', id: 'SM-H05', field: 'graphics.mode', value: 'display' },
        { type: 'object', kind: 'host', id: 'SM-H05', field: 'drawMs', value: 12 },
        { type: 'setting', key: 'redirection.devices', layer: 'location', target: 'wexcombe', value: ['card-reader'] },
        { type: 'hypothesis', fact: 'downMbps', value: 900 },
      ],
      find,
      estate.setting,
    );
    expect(changes.map(({ kind, id }) => [kind, id])).toEqual([
      ['host', 'SM-H05'],
      ['setting', expect.stringContaining('wexcombe')],
    ]);
    expect(changes[0]?.after).toMatchObject({ drawMs: 12, graphics: { mode: 'display', card: true } });
    const after = withObjectChanges(estate, changes);
    expect(after.host.find((host) => host.id === 'SM-H05')?.drawMs).toBe(12);
    const back = withObjectChanges(
      after,
      changes.map((change) => ({ ...change, before: change.after, after: change.before })),
    );
    const sorted = (list: { id: string }[]) => [...list].sort((a, b) => (a.id < b.id ? -1 : 1));
    for (const kind of ['host', 'setting'] as const) expect(sorted(back[kind])).toEqual(sorted(estate[kind]));
  });
});
