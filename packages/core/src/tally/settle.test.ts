import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { small } from '../../test/small.js';
import type { Missing } from '../crossing/index.js';
import { SettlingTally } from './index.js';

const ref = (person: string, endpoint: string, location = 'hall') => ({
  id: `${person}~${endpoint}`,
  person,
  endpoint,
  location,
  resource: 'desk',
});
const homes = {
  more: {
    location: [
      { id: 'home', name: 'Home', kind: 'home', latitude: 55, longitude: 3, lineKind: 'dsl', ownLines: true },
      { id: 'attic', name: 'Attic', kind: 'office', latitude: 55, longitude: 3, lineKind: 'dsl' },
    ],
  },
};
const { model } = small(homes).reader;
const best = (list: [ReturnType<typeof ref>, Missing][]) => {
  const tally = new SettlingTally();
  for (const [one, fact] of list) tally.add(one, fact, 1);
  return tally.best(model);
};

describe('what would tell most', () => {
  test('one field check is enough for a line that is shared, at homes it takes one each', () => {
    expect(best([])).toBeNull();
    const three = (location: string) =>
      ['a', 'b', 'c'].map((who): [ReturnType<typeof ref>, Missing] => [ref(who, `e${who}`, location), 'loss']);
    expect(best(three('hall'))).toEqual({ way: 'field check', location: 'Hall', crossings: 3, people: 3, times: 1, minutes: 1 });
    expect(best(three('home'))).toEqual({ way: 'field check', location: 'Home', crossings: 3, people: 3, times: 3, minutes: 3 });
    // three a minute before one
    expect(best([...three('home'), ...three('hall')])?.location).toBe('Hall');
  });

  test('most crossings a minute: four by a report of two minutes before one by a check of one, not before three; of equals the larger, then by name', () => {
    const of = (n: number, fact: Missing, location = 'hall') =>
      Array.from({ length: n }, (_, i): [ReturnType<typeof ref>, Missing] => [ref(`p${i}`, 'e', location), fact]);
    expect(best([...of(4, 'power of the hosts'), ...of(1, 'loss')])?.way).toBe('report of the hosts');
    expect(best([...of(4, 'power of the hosts'), ...of(3, 'loss')])?.way).toBe('field check');
    expect(best([...of(4, 'power of the hosts'), ...of(2, 'loss')])?.way).toBe('report of the hosts');
    expect(best([...of(2, 'loss'), ...of(2, 'loss', 'attic')])?.location).toBe('Attic');
    // a version is read on each device: two devices, four minutes
    expect(
      best([
        [ref('a', 'e1'), 'client version'],
        [ref('b', 'e2'), 'client version'],
      ]),
    ).toMatchObject({ times: 2, minutes: 4 });
    expect(best([[ref('a', 'e1'), 'certificate']])).toMatchObject({ way: 'look at the gateway', minutes: 2 });
    expect(best([[ref('a', 'e1'), 'sign-on times']])).toMatchObject({ way: 'timed sign-in', minutes: 1 });
  });

  // who can tell what: a field check what lies between the desk and the gateway, the hosts themselves what they have and do
  test.each<[string, Missing[]]>([
    [
      'field check',
      ['round trips', 'line rate', 'rate upwards', 'loss', 'people at once', 'Wi-Fi signal', 'reach of the gateway', 'decoders', 'screens'],
    ],
    ['report of the hosts', ['graphics of the host', 'host figures', 'power of the hosts', 'places of the hosts']],
    ['look at the gateway', ['certificate', 'TLS of the gateway']],
    ['look at the device', ['client version']],
    ['timed sign-in', ['second factor time', 'sign-on times']],
  ])('%s', (way, facts) => {
    for (const fact of facts) expect([fact, best([[ref('a', 'e'), fact]])?.way]).toEqual([fact, way]);
  });

  test('of equals at one place the way that comes first by name, and a place nobody knows is called by its id', () => {
    const pair: [ReturnType<typeof ref>, Missing][] = [
      [ref('a', 'e'), 'sign-on times'],
      [ref('b', 'e'), 'loss'],
    ];
    expect(best(pair)?.way).toBe('field check');
    expect(best([...pair].reverse())?.way).toBe('field check');
    expect(best([[ref('a', 'e', 'nowhere'), 'loss']])).toMatchObject({ location: 'nowhere', times: 1 });
  });

  test('what is added and taken out again is as if it had never been', () => {
    const any = fc.record({
      person: fc.constantFrom('a', 'b'),
      endpoint: fc.constantFrom('e1', 'e2'),
      location: fc.constantFrom('hall', 'home'),
      fact: fc.constantFrom<Missing>('loss', 'certificate', 'screens'),
    });
    fc.assert(
      fc.property(fc.array(any), fc.array(any), (stay, go) => {
        const [tally, plain] = [new SettlingTally(), new SettlingTally()];
        for (const { person, endpoint, location, fact } of [...go, ...stay]) tally.add(ref(person, endpoint, location), fact, 1);
        for (const { person, endpoint, location, fact } of go) tally.add(ref(person, endpoint, location), fact, -1);
        for (const { person, endpoint, location, fact } of stay) plain.add(ref(person, endpoint, location), fact, 1);
        expect(tally.best(model)).toEqual(plain.best(model));
      }),
    );
  });
});
