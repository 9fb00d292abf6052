import { describe, expect, test } from '@jest/globals';
import { emptyEstate, type Change, type Estate, type Group, type Person, type Publication } from '@underpass/contracts';
import fc from 'fast-check';
import { demoEstate } from '../../test/demo.js';
import { acceptancePlan, AccessIndex, chainOf, groupLoop, seenDifference, setCover, type AccessEstate } from './index.js';
import { consequenceOf, doing, made, overlay, whyNotSeen } from '../change/index.js';
import { modelOf, type EstateModel } from '../estate/index.js';

const { estate } = demoEstate();
const index = AccessIndex.of(estate);
const model = modelOf(estate, []);
/** The estate with a change made, read from the objects it writes. */
const withChange = (any: Estate, change: Change): Estate => {
  const after = overlay(modelOf(any, []), change, 0);
  return { ...any, person: [...after.people.values()], group: [...after.groups.values()], publication: [...after.publications.values()] };
};

/** Small estates of every shape: nested groups without loops, publications attached or not, resources in several of them. */
const anyEstate = fc
  .record({
    groups: fc.array(
      fc.record({ rank: fc.nat(5), up: fc.array(fc.nat(7), { maxLength: 2 }), holds: fc.array(fc.nat(5), { maxLength: 3 }) }),
      { minLength: 1, maxLength: 8 },
    ),
    publications: fc.array(fc.record({ resources: fc.array(fc.nat(6), { minLength: 1, maxLength: 3 }), attached: fc.boolean() }), {
      minLength: 1,
      maxLength: 6,
    }),
    people: fc.array(fc.array(fc.nat(7), { maxLength: 3 }), { minLength: 1, maxLength: 8 }),
  })
  .map(({ groups, publications, people }): Estate => {
    const group = groups.map(({ rank, up, holds }, i): Group => ({
      id: `g${i}`,
      name: `g${i}`,
      rank,
      // upwards only, so that there is no loop
      memberOf: [...new Set(up.filter((n) => n < i))].map((n) => `g${n}`),
      publications: [...new Set(holds.filter((n) => n < publications.length))].map((n) => `p${n}`),
    }));
    return {
      ...emptyEstate(),
      group,
      publication: publications.map(({ resources, attached }, i): Publication => ({
        id: `p${i}`,
        name: `p${i}`,
        kind: 'apps',
        pool: 'pool',
        resources: [...new Set(resources)].map((n) => `r${n}`),
        portals: attached ? ['portal'] : [],
      })),
      person: people.map((of, i): Person => ({
        id: `u${i}`,
        name: `u${i}`,
        kind: 'staff',
        location: 'l',
        groups: [...new Set(of.filter((n) => n < group.length))].map((n) => `g${n}`),
      })),
      resource: Array.from({ length: 7 }, (_, i) => ({
        ...estate.resource.find(({ kind }) => kind === 'app')!,
        id: `r${i}`,
        name: `r${i}`,
        pool: 'pool',
      })),
      pool: [{ ...estate.pool[0]!, id: 'pool', gateway: 'gateway' }],
      portal: [{ id: 'portal', name: 'Portal', gateway: 'gateway', address: 'portal.example' }],
    };
  });

/** Reads who sees what the slow, obvious way: every pair of facts until nothing new follows. */
function plainly({ person, group, publication }: AccessEstate, id: string): string[] {
  const inGroup = new Set(person.find((each) => each.id === id)?.groups);
  for (let size = -1; size !== inGroup.size;)
    for (const each of ((size = inGroup.size), group)) if (inGroup.has(each.id)) for (const up of each.memberOf) inGroup.add(up);
  const holds = group.filter((each) => inGroup.has(each.id)).flatMap((each) => each.publications);
  return [
    ...new Set(publication.filter((each) => holds.includes(each.id) && each.portals.length > 0).flatMap((each) => each.resources)),
  ].sort();
}
const seen = (of: AccessIndex, id: string) =>
  of
    .ofPerson(id)
    .seen.map(({ resource }) => resource)
    .sort();

describe('who sees what', () => {
  test('is what a plain reading of the same estate finds, forwards and backwards, and every chain holds link by link', () => {
    fc.assert(
      fc.property(anyEstate, (any) => {
        const of = AccessIndex.of(any);
        for (const { id } of any.person) {
          expect(seen(of, id)).toEqual(plainly(any, id));
          for (const reached of of.ofPerson(id).seen) {
            const chain = chainOf(id, reached);
            expect([chain[0], chain.at(-1)]).toEqual([id, reached.resource]);
            expect(of.people.get(id)?.groups).toContain(chain[1]);
            reached.groups.slice(1).forEach((up, i) => expect(of.groups.get(reached.groups[i]!)?.memberOf).toContain(up));
            expect(of.groups.get(reached.groups.at(-1)!)?.publications).toContain(reached.publication);
            expect(of.publications.get(reached.publication)?.portals[0]).toBe(reached.portal);
            expect(of.publications.get(reached.publication)?.resources).toContain(reached.resource);
          }
        }
        for (const { id } of any.resource)
          expect([...of.peopleSeeing(id)].sort()).toEqual(
            any.person
              .map((each) => each.id)
              .filter((each) => plainly(any, each).includes(id))
              .sort(),
          );
      }),
      { numRuns: 300 },
    );
  });

  test('a missing link, mended, shows the resource and lets in exactly whom it says; no smaller mend exists', () => {
    let mended = 0;
    fc.assert(
      fc.property(anyEstate, (any) => {
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
            expect(link.chain.includes(null)).toBe(true);
            // whatever takes one step away from the mend does not mend
            for (const step of link.change.patches)
              expect(plainly(withChange(any, doing(...link.change.patches.filter((each) => each !== step))), id)).not.toContain(resource);
          }
      }),
      { numRuns: 60 },
    );
    expect(mended).toBeGreaterThan(200);
  });

  test('groups in a loop are named with the way round; groups without one are not', () => {
    const group = (id: string, ...memberOf: string[]) => ({ id, memberOf });
    expect(groupLoop([group('a', 'b'), group('b', 'c'), group('c', 'a'), group('d')])).toEqual(['a', 'b', 'c', 'a']);
    expect(groupLoop([group('x', 'x')])).toEqual(['x', 'x']);
    expect(groupLoop([group('a', 'b', 'c'), group('b', 'd'), group('c', 'd'), group('d')])).toBeNull();
    const chain = Array.from({ length: 20_000 }, (_, i) => group(`n${i}`, `n${i + 1}`));
    expect(groupLoop(chain)).toBeNull();
    expect(groupLoop([...chain, group('n20000', 'n19998')])).toEqual(['n19998', 'n19999', 'n20000', 'n19998']);
    // an index of an estate that has one still answers
    const looped = {
      ...estate,
      group: estate.group.map((each) => (each.id === 'watchkeepers' ? { ...each, memberOf: ['control'] } : each)),
    };
    expect(AccessIndex.of(looped).ofPerson('P050').groups.length).toBeGreaterThan(0);
  });
});

describe('the demo estate', () => {
  test('its planted mistakes show: unattached, empty, clashing', () => {
    const plan = acceptancePlan(index);
    expect(plan.unseen).toEqual([{ publication: 'safety', because: 'attached to no portal' }]);
    expect(estate.person.some(({ groups }) => groups.includes('regatta'))).toBe(false);
    const desktops = index
      .ofPerson('P047')
      .seen.filter(({ resource }) => estate.resource.find((each) => each.id === resource)?.kind === 'desktop');
    expect(desktops.map(({ resource }) => resource).sort()).toEqual(['finance', 'timetable']);
    const link = whyNotSeen(model, 'P081', 'safety');
    expect(link).toMatchObject({
      step: 'publication attached to portal',
      object: 'safety',
      remedy: 'Attach the publication Safety handbook to Main portal',
    });
    expect(link?.alsoOpensTo).toHaveLength(5);
    expect(
      chainOf(
        'CR',
        index
          .ofPerson(estate.person.find(({ groups }) => groups.includes('control'))!.id)
          .seen.find(({ resource }) => resource === 'traffic')!,
      ),
    ).toEqual(['CR', 'control', 'watchkeepers', 'control-apps', 'main', 'traffic']);
  });

  test('a whole group moved from one desktop to another: each loses the one and gains the other, nobody else changes', () => {
    const people = estate.person.filter(({ groups }) => groups.includes('posters')).map(({ id }) => id);
    const move = doing({ do: 'move', leave: 'posters', join: 'timetable' });
    const result = consequenceOf(model, overlay(model, move, 0));
    expect(result.map(({ person }) => person).sort()).toEqual([...people].sort());
    for (const each of result) expect(each).toMatchObject({ gains: ['timetable'], loses: ['posters'], desktops: [] });
    // whoever is named and is not in the group they leave is not written
    expect(made(model, doing({ do: 'move', people, leave: 'regatta', join: null }), 0).writes).toEqual([]);
  });

  test('a choice between desktops is told where the change makes it, not where it stood before', () => {
    const moved = (person: string, join: string): EstateModel =>
      overlay(model, doing({ do: 'move', people: [person], leave: null, join }), 0);
    const after = (person: string, join: string) => consequenceOf(model, moved(person, join));
    // P047 has two desktops already; a published application changes nothing about that
    expect(after('P047', 'seasonal')).toEqual([{ person: 'P047', gains: ['counter'], loses: [], desktops: [] }]);
    expect(after('P047', 'posters')[0]?.desktops).toEqual(expect.arrayContaining(['timetable', 'finance', 'posters']));
    expect(after('P002', 'posters')[0]?.desktops).toEqual(['timetable', 'posters']);
  });

  test('acceptance: the sets part the people, the testers see every publication, and what was seen is told apart', () => {
    const plan = acceptancePlan(index);
    const people = plan.sets.flatMap((set) => set.people);
    expect(new Set(people).size).toBe(people.length);
    expect(people.length).toBe(estate.person.filter(({ id }) => seen(index, id).length > 0).length);
    for (const set of plan.sets) for (const id of set.people) expect(seen(index, id)).toEqual(set.resources);
    const covered = new Set(plan.testers.flatMap((id) => index.ofPerson(id).publications));
    const shown = estate.publication.filter(({ id, portals }) => portals.length > 0 && index.peopleWith(id).size > 0);
    for (const { id } of shown) expect(covered).toContain(id);
    expect(plan.optimal).toBe(true);
    expect(plan.testers.length).toBeLessThanOrEqual(plan.sets.length);
    expect(seenDifference(['a', 'b'], ['b', 'c'])).toEqual({ right: ['b'], missing: ['a'], extra: ['c'] });
  });
});

describe('the fewest sets that cover everything', () => {
  const coversAll = (sets: readonly string[][], chosen: readonly number[]) =>
    new Set(chosen.flatMap((i) => sets[i]!)).size === new Set(sets.flat()).size;

  test('is as few as trying every choice finds', () => {
    fc.assert(
      fc.property(fc.array(fc.uniqueArray(fc.integer({ min: 0, max: 9 }).map(String), { maxLength: 5 }), { maxLength: 9 }), (sets) => {
        const { chosen, optimal } = setCover(sets);
        expect([optimal, coversAll(sets, chosen)]).toEqual([true, true]);
        let fewest = Infinity;
        for (let mask = 0; mask < 1 << sets.length; mask++) {
          const choice = sets.map((_, i) => i).filter((i) => mask & (1 << i));
          if (choice.length < fewest && coversAll(sets, choice)) fewest = choice.length;
        }
        expect(chosen).toHaveLength(fewest);
      }),
      { numRuns: 200 },
    );
  });

  test('beats the greedy choice where that is known to be misled, and says so where it gave up', () => {
    // the textbook example: two sets of seven cover fourteen elements, greedy takes sets of 8, 4 and 2 first [Chvátal 1979]
    const grid = (row: number) => Array.from({ length: 7 }, (_, i) => `${row}${i}`);
    const halves = [4, 2, 1].map((n, i) => [0, 1].flatMap((row) => grid(row).slice([0, 4, 6][i], [0, 4, 6][i]! + n)));
    expect(setCover([...halves, grid(0), grid(1)])).toEqual({ chosen: [3, 4], optimal: true });
    // lines of a Steiner triple system of 45 points are a hard case: a bounded search must stop and still cover
    const triples = Array.from({ length: 330 }, (_, i) => [i % 45, (i * 7 + 3) % 45, (i * 13 + 11) % 45].map(String));
    const hard = setCover(triples);
    expect(coversAll(triples, hard.chosen)).toBe(true);
    expect(hard.chosen.length).toBeGreaterThanOrEqual(15);
  });
});
