import { describe, expect, test } from '@jest/globals';
import type { RequirementSet } from '@underpass/contracts';
import { small, type Otherwise } from '../../test/small.js';
import type { CrossingFacts, FactsReader } from '../crossing/index.js';
import { estateReadiness, ImpactTally, ReadinessTally } from './index.js';

/** Two conditions: a client of 3.0, and a host of release 12, with an old one as what will do. */
const set = {
  id: 'set',
  name: 'Set',
  purpose: 'x',
  appliesTo: { fact: 'person.kind', isNot: 'guest' },
  givenUp: [],
  conditions: [
    {
      id: 'client',
      name: 'Client of 3.0',
      bay: 'Endpoint',
      when: { fact: 'endpoint.clientVersion', atLeast: '3.0' },
      at: 'endpoint',
      who: 'Desk',
      remedy: 'Update it',
      effortH: 1,
      alternatives: [],
    },
    {
      id: 'release',
      name: 'Host of release 12',
      bay: 'Host',
      when: { fact: 'host.release', atLeast: '12' },
      at: 'host',
      who: 'Hosts',
      remedy: 'Roll the image',
      effortH: 8,
      alternatives: [{ name: 'release 11', when: { fact: 'host.release', atLeast: '11' }, costs: 'no sound' }],
    },
  ],
} as unknown as RequirementSet;

/** Three people: ann, bea and cid, each at an endpoint of their own, with a client and on the same host. */
const three = (versions: (string | undefined)[], release?: string): CrossingFacts => {
  const people = ['bea', 'cid'].map((id) => ({ id, name: id, kind: 'staff', location: 'hall', groups: ['staff'] }));
  const endpoints = people.map(({ id }, i) => ({
    id: `e${i + 2}`,
    name: `E${i + 2}`,
    location: 'hall',
    person: id,
    deviceClass: 'laptop',
    ownership: 'managed',
    platform: 'desktop',
    processor: 'x86-64',
    clientKind: 'native client',
    clientVersion: versions[i + 1],
  }));
  return small({ endpoint: { clientVersion: versions[0] }, host: { release }, more: { person: people, endpoint: endpoints } } as Otherwise);
};
const readiness = (versions: (string | undefined)[], release?: string) => {
  const { reader } = three(versions, release);
  return estateReadiness(reader, set);
};

describe('how an estate stands by a set', () => {
  test('people are counted where they stand, and named worst first, then by id', () => {
    const result = readiness(['3.0', '2.9', undefined], '12');
    expect([result.ready, result.fallback, result.notReady, result.notKnown]).toEqual([1, 0, 1, 1]);
    expect(result.people.map(({ person, readiness: how }) => [person, how])).toEqual([
      ['bea', 'not ready'],
      ['cid', 'not known'],
      ['ann', 'ready'],
    ]);
    expect(result.people[0]?.unmet).toEqual(['client']);
    expect(readiness(['3.0', '3.0', '3.0'], '12').people.map(({ person }) => person)).toEqual(['ann', 'bea', 'cid']);
  });

  test('what will do is a fallback; what is missing is not', () => {
    const fallback = readiness(['3.0', '3.1', '4.0'], '11');
    expect([fallback.ready, fallback.fallback, fallback.blockers]).toEqual([0, 3, []]);
    const none = readiness(['3.0', '3.1', '4.0'], '10');
    expect([none.notReady, none.blockers]).toEqual([
      3,
      [{ condition: 'release', name: 'Host of release 12', bay: 'Host', people: 3, alone: 3 }],
    ]);
  });

  test('what blocks most people comes first, and for how many it is the only thing', () => {
    const { blockers } = readiness(['2.0', '2.0', '3.0'], '10');
    expect(blockers.map(({ condition, people, alone }) => [condition, people, alone])).toEqual([
      ['release', 3, 1],
      ['client', 2, 0],
    ]);
  });

  test('remedies: work on the same thing is done once, for all who wait for it', () => {
    const { remedies } = readiness(['2.0', '3.0', '3.0'], '10');
    // three people in nine hours are more an hour than two in eight, so all of it is one step
    expect(remedies.map(({ works, people }) => [works.map(({ key }) => key), people])).toEqual([
      [
        ['client@e1', 'release@host'],
        ['ann', 'bea', 'cid'],
      ],
    ]);
  });

  test('only who is wanted is looked at', () => {
    const { reader } = three(['3.0', '2.0', '2.0'], '12');
    expect(estateReadiness(reader, set, ({ person }) => person === 'bea')).toMatchObject({ ready: 0, notReady: 1 });
    const tally = new ReadinessTally({ ...set, appliesTo: { fact: 'endpoint.clientKind', is: 'browser' } });
    expect(tally.result()).toMatchObject({ ready: 0, people: [] });
  });
});

describe('what people lose, in words', () => {
  const told = (change: object, otherwise: Otherwise = {}) => {
    const facts = small(otherwise);
    const { reader }: { reader: FactsReader } = facts;
    const tally = new ImpactTally(reader, { patches: [change as never], hypotheses: [] }, () => undefined);
    for (const ref of tally.crossings) tally.add(ref);
    return tally.result().losers.map(({ person, text }) => [person, text]);
  };
  const set2 = (key: string, value: unknown) => ({ do: 'setting', key, layer: 'organisation', target: '*', value });

  test('frames before delay before the time until usable before sharpness', () => {
    expect(told(set2('picture.frameCap', 10))).toEqual([['Ann', '10 frames instead of 30']]);
    expect(told({ do: 'change', kind: 'location', id: 'hall', set: { delayMs: 90 } })).toEqual([['Ann', '176 ms instead of 106']]);
    expect(told({ do: 'change', kind: 'resource', id: 'desk', set: { profileMB: 9000 } })).toEqual([
      ['Ann', expect.stringMatching(/^usable after \d+ s instead of 40$/)],
    ]);
    expect(told(set2('picture.heldHeight', 720))[0]?.[1] ?? 'text is less sharp').toMatch(/text is less sharp|instead of/);
  });
});
