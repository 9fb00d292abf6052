import { describe, expect, test } from '@jest/globals';
import type { Change, Estate } from '@underpass/contracts';
import fc from 'fast-check';
import { anyAccess, plainly } from '../../test/anyAccess.js';
import { twoPlaces } from '../../test/twoPlaces.js';
import { modelOf } from '../estate/index.js';
import { doing, overlay, whyNotSeen } from './index.js';

/** The estate with a change made, read from the objects it writes. */
const withChange = (any: Estate, change: Change): Estate => {
  const after = overlay(modelOf(any, []), change, 0);
  return { ...any, person: [...after.people.values()], group: [...after.groups.values()], publication: [...after.publications.values()] };
};

test('a missing link, mended, shows the resource and lets in exactly whom it says; no smaller mend exists', () => {
  let mended = 0;
  fc.assert(
    fc.property(anyAccess, (any) => {
      const of = modelOf(any, []);
      for (const { id } of any.person)
        for (const resource of any.resource.map((each) => each.id)) {
          const link = whyNotSeen(of, id, resource);
          if (plainly(any, id).includes(resource)) {
            expect(link).toBeNull();
            continue;
          }
          if (!link) continue;
          mended++;
          const after = withChange(any, link.change);
          expect(plainly(after, id)).toContain(resource);
          const others = any.person.map((each) => each.id).filter((each) => each !== id);
          expect([...link.alsoOpensTo].sort()).toEqual(
            others.filter((each) => plainly(after, each).includes(resource) && !plainly(any, each).includes(resource)).sort(),
          );
          expect([...link.alsoGives].sort()).toEqual(
            plainly(after, id)
              .filter((each) => each !== resource && !plainly(any, id).includes(each))
              .sort(),
          );
          expect(link.chain.includes(null)).toBe(true);
          // whatever takes one step away from the mend does not mend
          for (const step of link.change.patches)
            expect(plainly(withChange(any, doing(...link.change.patches.filter((each) => each !== step))), id)).not.toContain(resource);
        }
    }),
    { numRuns: 40 },
  );
  expect(mended).toBeGreaterThan(150);
});

describe('why somebody does not see something, worked through by hand', () => {
  const chain = (link: ReturnType<typeof whyNotSeen>) => link?.chain.map((each) => (each ? `${each.kind} ${each.id}` : '–')).join(' > ');

  const colleague = { person: { bo: { name: 'Bo', kind: 'staff', location: 'hall-a', groups: ['staff-a'] } } };

  test('nothing is missing where it is seen; nobody and nothing have no link', () => {
    const model = twoPlaces();
    expect(whyNotSeen(model, 'ann-a', 'app-a')).toBeNull();
    expect(whyNotSeen(model, 'nobody', 'app-a')).toBeUndefined();
    expect(whyNotSeen(model, 'ann-a', 'nothing')).toBeUndefined();
  });

  test('the person is not in the group: of two groups, the one that gives less', () => {
    // into staff-b Ann would get the desktop of b as well; into readers the application alone
    const model = twoPlaces({ group: { readers: { name: 'Readers', rank: 2, publications: ['apps-b'] } } });
    const link = whyNotSeen(model, 'ann-a', 'app-b');
    expect(link).toEqual({
      step: 'person in group',
      object: 'ann-a',
      remedy: 'Put Ann a into the group Readers',
      change: doing({ do: 'change', kind: 'person', id: 'ann-a', add: { groups: ['readers'] } }),
      chain: [
        { kind: 'person', id: 'ann-a' },
        null,
        { kind: 'group', id: 'readers' },
        { kind: 'publication', id: 'apps-b' },
        { kind: 'portal', id: 'portal-b' },
        { kind: 'resource', id: 'app-b' },
      ],
      alsoOpensTo: [],
      alsoGives: [],
    });
    // without it her own group is let hold it, as long as nobody else is in it; fewer people come before fewer resources
    expect(whyNotSeen(twoPlaces(), 'ann-a', 'app-b')).toMatchObject({ remedy: 'Let the group Staff a hold the publication Apps b' });
    expect(whyNotSeen(twoPlaces(colleague), 'ann-a', 'app-b')).toMatchObject({
      remedy: 'Put Ann a into the group Staff b',
      alsoOpensTo: [],
      alsoGives: ['desk-b'],
    });
  });

  test('the group does not hold the publication: its own group is let hold it, where nobody else gets more by it', () => {
    const model = twoPlaces({ group: { 'staff-b': { publications: ['desks-b'] } } });
    const link = whyNotSeen(model, 'ann-b', 'app-b');
    expect(link).toMatchObject({
      step: 'group holds publication',
      object: 'staff-b',
      remedy: 'Let the group Staff b hold the publication Apps b',
      alsoOpensTo: [],
    });
    expect(chain(link)).toBe('person ann-b > group staff-b > – > publication apps-b > portal portal-b > resource app-b');
    // with a colleague in the group, who would see it too
    const two = twoPlaces({
      group: { 'staff-b': { publications: ['desks-b'] } },
      person: { bo: { name: 'Bo', kind: 'staff', location: 'hall-b', groups: ['staff-b'] } },
    });
    expect(whyNotSeen(two, 'ann-b', 'app-b')?.alsoOpensTo).toEqual(['bo']);
  });

  test('the publication is attached to no portal: to that of the gateway the pool is behind, else to the first', () => {
    const unattached = { publication: { 'apps-b': { portals: [] } } };
    const link = whyNotSeen(twoPlaces(unattached), 'ann-b', 'app-b');
    expect(link).toMatchObject({
      step: 'publication attached to portal',
      object: 'apps-b',
      remedy: 'Attach the publication Apps b to Portal b',
      change: doing({ do: 'change', kind: 'publication', id: 'apps-b', add: { portals: ['portal-b'] } }),
    });
    expect(chain(link)).toBe('person ann-b > group staff-b > publication apps-b > – > portal portal-b > resource app-b');
    expect(whyNotSeen(twoPlaces({ ...unattached, portal: { 'portal-b': { gateway: 'gate-a' } } }), 'ann-b', 'app-b')?.remedy).toBe(
      'Attach the publication Apps b to Portal a',
    );
    const portals = { 'portal-a': null, 'portal-b': null };
    const none = twoPlaces({
      portal: portals,
      publication: { ...unattached.publication, 'desks-a': { portals: [] }, 'apps-a': { portals: [] }, 'desks-b': { portals: [] } },
    });
    expect(whyNotSeen(none, 'ann-b', 'app-b')).toBeUndefined();
  });

  test('the publication does not hold the resource: one of its pool and kind, and of no other', () => {
    const model = twoPlaces({ resource: { tool: { name: 'Tool', kind: 'app', pool: 'pool-a', work: 'office', content: { text: 1 } } } });
    const link = whyNotSeen(model, 'ann-a', 'tool');
    expect(link).toMatchObject({ step: 'publication holds resource', object: 'apps-a', remedy: 'Put Tool into the publication Apps a' });
    expect(chain(link)).toBe('person ann-a > group staff-a > publication apps-a > portal portal-a > – > resource tool');
    const desk = twoPlaces({
      resource: { second: { name: 'Second', kind: 'desktop', pool: 'pool-a', work: 'office', content: { text: 1 } } },
    });
    expect(whyNotSeen(desk, 'ann-a', 'second')?.object).toBe('desks-a');
  });

  test('several links are missing: all are in the remedy, in their order', () => {
    const model = twoPlaces({
      ...colleague,
      publication: { 'apps-b': { portals: [] } },
      resource: { tool: { name: 'Tool', kind: 'app', pool: 'pool-b', work: 'office', content: { text: 1 } } },
    });
    const link = whyNotSeen(model, 'ann-a', 'tool');
    expect(link?.step).toBe('person in group');
    expect(link?.remedy).toBe(
      'Put Ann a into the group Staff b, and attach the publication Apps b to Portal b, and put Tool into the publication Apps b',
    );
    expect(chain(link)).toBe('person ann-a > – > group staff-b > publication apps-b > – > portal portal-b > – > resource tool');
    expect(link?.change.patches).toHaveLength(3);
  });

  test('a group that holds it is reached through another: the whole way is told', () => {
    const model = twoPlaces({
      group: { crew: { name: 'Crew', rank: 3, memberOf: ['staff-b'], publications: [] } },
      publication: { 'apps-b': { portals: [] } },
      person: { cy: { name: 'Cy', kind: 'staff', location: 'hall-b', groups: ['crew'] } },
    });
    expect(chain(whyNotSeen(model, 'cy', 'app-b'))).toBe(
      'person cy > group crew > group staff-b > publication apps-b > – > portal portal-b > resource app-b',
    );
  });
});
