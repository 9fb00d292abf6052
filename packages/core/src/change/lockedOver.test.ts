import { expect, test } from '@jest/globals';
import type { Layer, Setting } from '@underpass/contracts';
import fc from 'fast-check';
import { twoPlaces } from '../../test/twoPlaces.js';
import { subjectIn } from '../crossing/index.js';
import { explainSetting } from '../settings/index.js';
import { lockedOver } from './index.js';

const key = 'picture.frameCap';
const targets: Record<Layer, readonly string[]> = {
  organisation: ['*'],
  'device class': ['thin-client', 'laptop', 'kiosk'],
  location: ['hall-a', 'hall-b'],
  group: ['staff-a', 'staff-b', 'both'],
  person: ['ann-a', 'ann-b'],
  endpoint: ['box-a', 'box-b'],
};
const place = fc
  .constantFrom<Layer>('organisation', 'device class', 'location', 'group', 'person', 'endpoint')
  .chain((layer) => fc.record({ layer: fc.constant(layer), target: fc.constantFrom(...targets[layer]) }));
const condition = fc.constantFrom(undefined, undefined, { ownership: 'managed' }, { ownership: 'personal' });
const lock = fc.record({ place, condition, locked: fc.boolean() });

/** Ann of each place at her own device and at the other's, which is everybody's. */
const model = (settings: Record<string, object>) =>
  twoPlaces({
    setting: settings,
    group: { both: { name: 'Both', rank: 2, publications: [] }, 'staff-b': { rank: 3 } },
    person: { 'ann-a': { groups: ['staff-a', 'both'] }, 'ann-b': { groups: ['both', 'staff-b'] } },
    endpoint: { 'box-b': { users: ['ann-a'] } },
  });

test('locks told over a place are those that hide what is written there, for everybody or for some; others hide nothing', () => {
  const seen = { all: 0, some: 0, none: 0 };
  fc.assert(
    fc.property(place, fc.array(lock, { minLength: 1, maxLength: 2 }), (to, entries) => {
      const settings = Object.fromEntries(
        entries.map((each, i) => {
          const { layer, target } = each.place;
          return [
            `l${i}`,
            { key, layer, target, value: 20, locked: each.locked, ...(each.condition ? { condition: each.condition } : {}) },
          ];
        }),
      );
      const of = model({ ...settings, wish: { key, ...to, value: 60 } });
      const told = lockedOver(of, key, to);
      const subjects = (
        [
          ['box-a', 'ann-a'],
          ['box-b', 'ann-a'],
          ['box-b', 'ann-b'],
        ] as const
      ).flatMap(([endpoint, person]) => subjectIn(of, endpoint, person) ?? []);
      const hidden = subjects.flatMap((subject) => {
        const { deciding, hidden: under, lockedBy } = explainSetting(of.settings, key, subject);
        const wish = under.find(({ entry }) => entry.id === 'wish');
        if (!wish && deciding?.id !== 'wish') return [];
        return [wish?.because === 'a layer above is locked' ? (lockedBy as Setting).id : null];
      });
      const ids = told.map(({ entry }) => entry.id);
      for (const each of hidden) if (each !== null) expect(ids).toContain(each);
      if (told.some(({ all }) => all)) for (const each of hidden) expect(each).not.toBeNull();
      if (told.length === 0) seen.none++;
      else seen[told.some(({ all }) => all) ? 'all' : 'some']++;
    }),
    { numRuns: 600 },
  );
  expect(Math.min(...Object.values(seen))).toBeGreaterThan(30);
});

test('whom a lock is not for is left out, and the farthest is told first', () => {
  const at = (entry: object) => ({ key, value: 20, locked: true, ...entry });
  const of = model({
    z: at({ layer: 'organisation', target: '*', condition: { guest: true } }),
    kiosks: at({ layer: 'device class', target: 'kiosk' }),
    laptops: at({ layer: 'device class', target: 'laptop' }),
    'hall-a': at({ layer: 'location', target: 'hall-a' }),
    'hall-b': at({ layer: 'location', target: 'hall-b' }),
    staff: at({ layer: 'group', target: 'staff-a' }),
    both: at({ layer: 'group', target: 'both' }),
    ann: at({ layer: 'person', target: 'ann-a' }),
    open: at({ layer: 'location', target: 'hall-a', locked: false }),
    other: at({ layer: 'organisation', target: '*', key: 'session.idleMinutes' }),
  });
  const told = (layer: Layer, target: string) =>
    lockedOver(of, key, { layer, target }).map(({ entry, all }) => `${entry.id}${all ? '!' : ''}`);
  expect(told('organisation', '*')).toEqual([]);
  expect(told('device class', 'laptop')).toEqual(['z']);
  expect(told('location', 'hall-a')).toEqual(['z', 'kiosks', 'laptops']);
  expect(told('group', 'both')).toEqual(['z', 'kiosks', 'laptops', 'hall-a', 'hall-b', 'staff']);
  expect(told('group', 'staff-a')).toEqual(['z', 'kiosks', 'laptops', 'hall-a', 'hall-b']);
  expect(told('person', 'ann-a')).toEqual(['z', 'kiosks', 'laptops', 'hall-a', 'hall-b', 'both!', 'staff!']);
  // of two who use it nobody is everybody
  expect(told('endpoint', 'box-b')).toEqual(['z', 'laptops!', 'hall-b!', 'both', 'staff', 'ann']);
  expect(told('endpoint', 'box-a')).toEqual(['z', 'hall-a!', 'both', 'staff', 'ann!']);
});
