import { describe, expect, test } from '@jest/globals';
import { emptyEstate, kindTraits, objectSchemas, type Estate, type ObjectKind } from '@underpass/contracts';
import { demoEstate } from '../../test/demo.js';
import { modelOf } from '../estate/index.js';
import { firstSteps } from './index.js';

const place = { id: 'hall', name: 'Hall', kind: 'office', latitude: 55, longitude: 3, lineKind: 'fibre' };
const seat = {
  deviceClass: 'laptop',
  ownership: 'managed',
  platform: 'desktop',
  processor: 'x86-64',
  clientKind: 'browser',
  location: 'hall',
};
function stepsOf(parts: Partial<Record<ObjectKind, object[]>>): string[] {
  const estate = emptyEstate() as unknown as Record<string, unknown[]>;
  for (const [kind, list] of Object.entries(parts)) estate[kind] = list.map((each) => objectSchemas[kind as ObjectKind].parse(each));
  return firstSteps(modelOf(estate as unknown as Estate, [], { traits: kindTraits })).map(({ text }) => text);
}
const endpoint = (id: string, more: object = {}) => ({ id, name: id, ...seat, ...more });
const person = (id: string, groups: string[] = []) => ({ id, name: id, kind: 'staff', location: 'hall', groups });

describe('first steps', () => {
  test('say what is missing, counted, and are gone when it is done', () => {
    expect(stepsOf({})).toEqual(['No endpoints yet', 'No people yet']);
    expect(stepsOf({ location: [place], endpoint: [endpoint('a'), endpoint('b')] })).toEqual([
      'No people yet',
      '2 endpoints wait for their people',
      'Nothing to open yet',
    ]);
    expect(stepsOf({ location: [place], endpoint: [endpoint('a', { person: 'p' })], person: [person('p'), person('q')] })).toEqual([
      '1 person has no endpoint',
      'Nothing to open yet',
    ]);
    expect(
      stepsOf({ location: [place], endpoint: [endpoint('a', { users: ['p', 'q'] }), endpoint('b')], person: [person('p'), person('q')] }),
    ).toEqual(['1 endpoint waits for its person', 'Nothing to open yet']);
  });

  test('say who sees nothing to open, and which lines and certificates nobody knows', () => {
    const estate = {
      region: [{ id: 'r', name: 'R', latitude: 55, longitude: 3 }],
      gateway: [{ id: 'g', name: 'G', region: 'r', address: 'g.example', securityModes: ['tls'] }],
      pool: [{ id: 'p', name: 'P', gateway: 'g', securityModes: ['tls'] }],
      resource: [{ id: 'd', name: 'D', kind: 'desktop', pool: 'p', work: 'office', content: { text: 1 } }],
      portal: [{ id: 'o', name: 'O', gateway: 'g', address: 'o.example' }],
      publication: [{ id: 'u', name: 'U', kind: 'desktop', pool: 'p', resources: ['d'], portals: ['o'] }],
      group: [{ id: 's', name: 'S', rank: 0, publications: ['u'] }],
      location: [
        { ...place, assumed: ['lineKind'] },
        { ...place, id: 'other', assumed: ['latitude'] },
      ],
      person: [person('ann', ['s']), person('bo')],
      endpoint: [endpoint('a', { person: 'ann' }), endpoint('b', { person: 'bo' })],
    };
    expect(stepsOf(estate)).toEqual([
      '1 person sees nothing to open',
      'The line of 1 location is not known',
      'The certificate of 1 gateway is not known',
    ]);
  });

  test('are at most five, and none where an estate is under way', () => {
    const { estate, measurements } = demoEstate();
    expect(firstSteps(modelOf(estate, measurements, { traits: kindTraits }))).toEqual([]);
  });
});
