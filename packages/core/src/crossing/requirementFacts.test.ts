import { describe, expect, test } from '@jest/globals';
import { RequirementSet, type Condition } from '@underpass/contracts';
import { small, type Otherwise } from '../../test/small.js';
import type { CrossingFacts } from './facts.js';
import { settingsOf } from './facts.js';
import { closedGate, editOfCondition, factReaderOf, hasSignInRight, readinessOf, remedyObject } from './requirementFacts.js';

const guest = (endsOn: string) => ({ kind: 'guest', guest: { organisation: 'Elsewhere', owner: 'ann', endsOn, invitation: 'accepted' } });
const read = (fact: string, otherwise: Otherwise = {}, more: Partial<CrossingFacts> = {}) => {
  const facts = { ...small(otherwise), ...more };
  return factReaderOf(
    facts,
    () => settingsOf(facts),
    () => facts.hosts[0],
  )(fact);
};

describe('facts by name', () => {
  test('what is worked out', () => {
    expect([read('entitled'), read('entitled', {}, { entitled: false })]).toEqual([true, false]);
    expect([read('visible'), read('visible', {}, { portal: undefined })]).toEqual([true, false]);
    expect([read('resources'), read('groups')]).toEqual([1, ['staff']]);
    expect([read('signInRight'), read('signInRight', { pool: { signInGroups: ['others'] } })]).toEqual([true, false]);
    expect(hasSignInRight(small({ pool: { signInGroups: ['others', 'staff'] } }))).toBe(true);
    expect(read('guestEnded')).toBeUndefined();
    expect([read('guestEnded', { person: guest('2026-11-24') }), read('guestEnded', { person: guest('2026-12-24') })]).toEqual([
      true,
      false,
    ]);
  });
  test.each([
    ['person.id', 'ann'],
    ['endpoint.platform', 'thin'],
    ['location.kind', 'office'],
    ['line.lineKind', 'fibre'],
    ['resource.work', 'office'],
    ['pool.id', 'pool'],
    ['host.power', 'on'],
    ['gateway.certificate.trust', 'public'],
    ['publication.kind', 'desktop'],
    ['portal.address', 'portal.example'],
    ['setting.picture.frameCap', 30],
    ['setting.nothing.such', undefined],
    ['nothing.such', undefined],
    ['person.nothing.such', undefined],
    ['gateway.certificate.nothing', undefined],
  ])('%s is %s', (fact, value) => expect(read(fact)).toBe(value));
  test('what is not there is not known; what is null too', () => {
    expect(read('gateway.certificate.trust', { gateway: { certificate: undefined } })).toBeUndefined();
    expect(read('publication.kind', {}, { publication: undefined })).toBeUndefined();
    expect(read('host.power', {}, { hosts: [] })).toBeUndefined();
    expect(read('person.x.y', {}, { person: { x: null } as never })).toBeUndefined();
  });
  test('the version of a program in a list; 0 without one, or where it is not there', () => {
    const installed = { host: { installed: ['file-sync 24.1', 'viewer', 'file-sync-tools 3'] } };
    expect(['file-sync', 'viewer', 'file-sync-tools', 'other'].map((name) => read(`host.installed.${name}`, installed))).toEqual([
      '24.1',
      '0',
      '3',
      '0',
    ]);
  });
});

const condition = (more: object = {}): Condition =>
  ({
    ...{ id: 'c', name: 'C', bay: 'Gateway', when: { fact: 'entitled', is: false }, remedy: 'Do it', who: 'Us', at: 'person', effortH: 1 },
    ...{ alternatives: [], ...more },
  }) as Condition;
const set = (more: object = {}) =>
  RequirementSet.parse({
    ...{ id: 'set', name: 'Set', purpose: 'To try', breaks: 'signed in', appliesTo: { fact: 'entitled', is: true } },
    ...{ conditions: [condition()], givenUp: ['the old way'], ...more },
  });
const met = [condition({ when: { fact: 'entitled', is: true } })];

describe('gates', () => {
  const closed = (...gates: ReturnType<typeof set>[]) => {
    const facts = { ...small(), gates };
    const found = closedGate(facts, settingsOf(facts), facts.hosts[0]);
    return found && [found.name, found.givenUp, found.result.readiness];
  };
  test('the first that is for the crossing and not met keeps it out', () => {
    expect(closed()).toBeNull();
    expect(closed(set())).toEqual(['Set', ['the old way'], 'not ready']);
    expect(closed(set({ conditions: met }))).toBeNull();
    expect(closed(set({ appliesTo: { fact: 'entitled', is: false } }))).toBeNull();
    expect(closed(set({ name: 'Met', conditions: met }), set({ name: 'Second' }), set({ name: 'Third' }))?.[0]).toBe('Second');
    // what is not known keeps nobody out
    expect(closed(set({ conditions: [condition({ when: { fact: 'endpoint.firmware', is: 'x' } })] }))).toBeNull();
    expect(closed(set({ conditions: [condition({ when: { fact: 'host.power', is: 'off' } })] }))?.[2]).toBe('not ready');
    expect(closed(set({ conditions: [condition({ when: { fact: 'setting.picture.frameCap', is: 30 } })] }))).toBeNull();
  });
  test('one set by itself; null where it is not for the crossing', () => {
    expect(readinessOf(set(), small())?.readiness).toBe('not ready');
    expect(readinessOf(set({ conditions: met }), small())?.readiness).toBe('ready');
    expect(readinessOf(set({ appliesTo: { fact: 'entitled', is: false } }), small())).toBeNull();
    expect(readinessOf(set({ conditions: [condition({ when: { fact: 'host.power', is: 'on' } })] }), small())?.readiness).toBe('ready');
    expect(readinessOf(set({ conditions: [condition({ when: { fact: 'setting.picture.frameCap', is: 30 } })] }), small())?.readiness).toBe(
      'ready',
    );
  });
});

describe('what meets a condition here', () => {
  const facts = small();
  const [host] = facts.hosts;
  test('the object it is done at', () => {
    const at = (place: string, more: Partial<CrossingFacts> = {}) => remedyObject(place as never, { ...facts, ...more }, host);
    expect(
      ['organisation', 'host', 'portal', 'person', 'endpoint', 'location', 'resource', 'pool', 'gateway'].map((place) => at(place)),
    ).toEqual([...['*', 'host', 'portal', 'ann', 'e1', 'hall', 'desk', 'pool', 'gate']]);
    expect([remedyObject('host', facts, undefined), at('portal', { portal: undefined })]).toEqual([undefined, undefined]);
  });
  const edit = (more: object) => editOfCondition(condition(more), facts, host);
  test('a field of an object, or a setting at a place; nothing where neither does it', () => {
    expect(edit({ at: 'pool', edit: { field: 'name', value: 'X' } })).toEqual({
      do: 'change',
      kind: 'pool',
      id: 'pool',
      set: { name: 'X' },
    });
    expect(edit({ at: 'organisation', edit: { field: 'name', value: 'X' } })).toBeNull();
    for (const [at, target] of [
      ['organisation', '*'],
      ['location', 'hall'],
      ['person', 'ann'],
      ['endpoint', 'e1'],
    ])
      expect(edit({ at, edit: { setting: 'picture.frameCap', value: 24 } })).toMatchObject({
        ...{ do: 'setting', key: 'picture.frameCap', layer: at, target, value: 24 },
      });
    expect(edit({ at: 'pool', edit: { setting: 'picture.frameCap', value: 24 } })).toBeNull();
    expect(edit({ at: 'pool' })).toBeNull();
    expect(editOfCondition(condition({ at: 'host', edit: { field: 'name', value: 'X' } }), facts, undefined)).toBeNull();
  });
});
