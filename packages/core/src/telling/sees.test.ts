import { describe, expect, test } from '@jest/globals';
import type { Person } from '@underpass/contracts';
import fc from 'fast-check';
import { demoEstate, demoInstant } from '../../test/demo.js';
import { FactsReader, settingsOf } from '../crossing/index.js';
import { modelOf, type EstateModel } from '../estate/index.js';
import { seesOf } from './index.js';

const { estate, measurements } = demoEstate();
const changed = (change: (people: Person[]) => Person[] = (people) => people, more: typeof estate.setting = []) =>
  modelOf({ ...estate, person: change(estate.person), setting: [...estate.setting, ...more] }, measurements);
const model = changed();
const withGroups = (id: string, groups: string[]) => (people: Person[]) =>
  people.map((person) => (person.id === id ? { ...person, groups } : person));

/** Whether every step of a chain is a step of the estate: read straight from the objects. */
function holds(model: EstateModel, chain: readonly string[]): boolean {
  const objects = { person: model.people, group: model.groups, publication: model.publications };
  const [person, ...rest] = chain;
  const [portal, resource] = rest.slice(-2) as [string, string];
  const publication = objects.publication.get(rest.at(-3)!);
  const groups = rest.slice(0, -3).map((id) => objects.group.get(id));
  return (
    (objects.person.get(person!)?.groups.includes(groups[0]?.id ?? '') ?? false) &&
    groups.every((group, i) => i === 0 || (groups[i - 1]?.memberOf.includes(group?.id ?? '') ?? false)) &&
    (groups.at(-1)?.publications.includes(publication?.id ?? '') ?? false) &&
    (publication?.portals.includes(portal) ?? false) &&
    (publication?.resources.includes(resource) ?? false)
  );
}

describe('what a person sees', () => {
  test('every chain is one of the estate, for any groups, and the choice is theirs exactly where there is one', () => {
    const anyGroups = fc.subarray(
      estate.group.map(({ id }) => id),
      { maxLength: 4 },
    );
    fc.assert(
      fc.property(anyGroups, (groups) => {
        const then = changed(withGroups('P100', groups));
        const sees = seesOf(then, 'P100')!;
        for (const { resource, chain } of sees.afterNextSignIn) {
          expect([chain[0], chain.at(-1)]).toEqual(['P100', resource]);
          expect([chain, holds(then, chain)]).toEqual([chain, true]);
        }
        const seen = sees.afterNextSignIn.map(({ resource }) => resource);
        expect(new Set(seen).size).toBe(seen.length);
        expect(sees.mustChoose).toBe(seen.length > 1);
        expect(sees.startsAtOnce).toBe(seen.length === 1 ? seen[0] : null);
        const desktops = seen.filter((id) => estate.resource.find((each) => each.id === id)?.kind === 'desktop');
        expect(sees.desktops).toEqual(desktops.length > 1 ? desktops : []);
        expect(sees.hidden.every(({ publication }) => estate.publication.find(({ id }) => id === publication)?.portals.length === 0)).toBe(
          true,
        );
      }),
      { numRuns: 40 },
    );
  });

  test('now is what the last sign-in gave; a move shows at the next one only', () => {
    const before = seesOf(model, 'P047')!;
    expect(before.now.map(({ resource }) => resource)).not.toContain('timetable');
    expect(before.afterNextSignIn.map(({ resource }) => resource)).toContain('timetable');
    const moved = seesOf(changed(withGroups('P047', ['call-desk'])), 'P047')!;
    expect(moved.now).toEqual(before.now);
    expect(moved.afterNextSignIn.map(({ resource }) => resource)).toEqual(['call-desktop', 'complaints']);
    expect(seesOf(model, 'nobody')).toBeNull();
  });

  test('the only resource starts at once only where the setting for that person says so', () => {
    const one = withGroups('P100', ['posters']);
    const off = { id: 'T1', key: 'session.startOnly', layer: 'person' as const, target: 'P100', value: false, locked: false };
    const [on, without] = [seesOf(changed(one), 'P100')!, seesOf(changed(one, [off]), 'P100')!];
    expect([on.startsAtOnce, on.afterNextSignIn.map(({ resource }) => resource)]).toEqual(['posters', ['posters']]);
    expect(without.startsAtOnce).toBeNull();
  });

  test('that setting is the one of what they open, for everybody who has one resource alone', () => {
    const off = { id: 'T1', key: 'session.startOnly', layer: 'location' as const, target: 'head-office', value: false, locked: false };
    const alone = (people: Person[]) => people.map((person) => ({ ...person, groups: ['posters'] }));
    for (const then of [changed(alone), changed(alone, [off])]) {
      const reader = new FactsReader(then, demoInstant);
      const told = estate.person.flatMap(({ id }) => {
        const [only, ...more] = seesOf(then, id)!.afterNextSignIn;
        const facts = then.crossingsOf(id).flatMap((ref) => reader.read(ref) ?? []);
        const says = new Set(facts.map((each) => settingsOf(each)['session.startOnly']));
        return only && more.length === 0 && says.size === 1
          ? [[id, seesOf(then, id)!.startsAtOnce, says.has(true) ? only.resource : null]]
          : [];
      });
      expect(told.length).toBeGreaterThan(20);
      for (const [id, is, should] of told) expect([id, is]).toEqual([id, should]);
    }
  });
});
