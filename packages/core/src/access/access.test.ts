import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { anyAccess, plainly } from '../../test/anyAccess.js';
import { demoEstate } from '../../test/demo.js';
import { acceptancePlan, AccessIndex, chainOf, groupLoop, seenDifference, setCover } from './index.js';

const { estate } = demoEstate();
const index = AccessIndex.of(estate);
const seen = (of: AccessIndex, id: string) =>
  of
    .ofPerson(id)
    .seen.map(({ resource }) => resource)
    .sort();

describe('who sees what', () => {
  test('is what a plain reading of the same estate finds, forwards and backwards, and every chain holds link by link', () => {
    fc.assert(
      fc.property(anyAccess, (any) => {
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
    expect(
      chainOf(
        'CR',
        index
          .ofPerson(estate.person.find(({ groups }) => groups.includes('control'))!.id)
          .seen.find(({ resource }) => resource === 'traffic')!,
      ),
    ).toEqual(['CR', 'control', 'watchkeepers', 'control-apps', 'main', 'traffic']);
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
    expect(setCover([...halves, grid(0), grid(1)])).toEqual({ chosen: [3, 4], optimal: true, nodes: 5 });
    // lines of a Steiner triple system of 45 points are a hard case: a bounded search must stop and still cover
    const triples = Array.from({ length: 330 }, (_, i) => [i % 45, (i * 7 + 3) % 45, (i * 13 + 11) % 45].map(String));
    const hard = setCover(triples);
    expect(coversAll(triples, hard.chosen)).toBe(true);
    expect(hard.chosen.length).toBeGreaterThanOrEqual(15);
  });
});
