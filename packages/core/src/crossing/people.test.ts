import { describe, expect, test } from '@jest/globals';
import type { Measurement, Person } from '@underpass/contracts';
import fc from 'fast-check';
import { demoEstate, demoInstant } from '../../test/demo.js';
import { doing, settingTo } from '../change/index.js';
import { modelOf, type EstateModel } from '../estate/index.js';
import { chooseSignonTimes } from '../evidence/index.js';
import type { CrossingRef } from '../estate/index.js';
import { SavingsTally } from '../tally/index.js';
import { seesOf } from '../telling/index.js';
import { computeFigures, FactsReader } from './index.js';

const { estate, measurements } = demoEstate();
const readerOf = (change: (people: Person[]) => Person[] = (people) => people, more: typeof estate.setting = []) =>
  new FactsReader(modelOf({ ...estate, person: change(estate.person), setting: [...estate.setting, ...more] }, measurements), demoInstant);
const reader = readerOf();
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
        const changed = readerOf(withGroups('P100', groups));
        const sees = seesOf(changed, 'P100')!;
        for (const { resource, chain } of sees.afterNextSignIn) {
          expect([chain[0], chain.at(-1)]).toEqual(['P100', resource]);
          expect([chain, holds(changed.model, chain)]).toEqual([chain, true]);
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
    const before = seesOf(reader, 'P047')!;
    expect(before.now.map(({ resource }) => resource)).not.toContain('timetable');
    expect(before.afterNextSignIn.map(({ resource }) => resource)).toContain('timetable');
    const moved = seesOf(readerOf(withGroups('P047', ['call-desk'])), 'P047')!;
    expect(moved.now).toEqual(before.now);
    expect(moved.afterNextSignIn.map(({ resource }) => resource)).toEqual(['call-desktop', 'complaints']);
    expect(seesOf(reader, 'nobody')).toBeNull();
  });

  test('the only resource starts at once only where the setting for that person says so', () => {
    const one = withGroups('P100', ['posters']);
    const off = { id: 'T1', key: 'session.startOnly', layer: 'person' as const, target: 'P100', value: false, locked: false };
    const [on, without] = [seesOf(readerOf(one), 'P100')!, seesOf(readerOf(one, [off]), 'P100')!];
    expect([on.startsAtOnce, on.afterNextSignIn.map(({ resource }) => resource)]).toEqual(['posters', ['posters']]);
    expect(without.startsAtOnce).toBeNull();
  });
});

describe('what shortcuts save a group', () => {
  const signonSavings = (from: FactsReader, crossings: readonly CrossingRef[]) => {
    const tally = new SavingsTally(from.model.organisation);
    for (const ref of crossings) tally.add(ref, () => from.read(ref));
    return tally.result();
  };
  const crossings = reader.model.crossings.filter(({ resource }) => resource === 'timetable');
  const answer = signonSavings(reader, crossings);

  test('each person counts once, and the entry link is the sum of what it saves each, in hours', () => {
    const first = [...new Map([...crossings].reverse().map((ref) => [ref.person, ref])).values()];
    const saved = first.map((ref) => {
      const facts = reader.read(ref)!;
      const linked = reader.after(doing(settingTo('session.entryLink', 'endpoint', facts.endpoint.id, true))).read(ref)!;
      return Math.max(0, computeFigures(facts).timeline.totalS - computeFigures(linked).timeline.totalS);
    });
    const sum = saved.reduce((total, seconds) => total + seconds, 0);
    const link = answer.savings.find(({ id }) => id === 'entry link')!;
    expect(answer.people).toBe(first.length);
    expect(link.people).toBe(saved.filter((seconds) => seconds > 0).length);
    expect(link.savedS).toBeCloseTo(sum / link.people, 9);
    // seconds × sign-ins a day × working days, in hours [handbook]
    expect(link.hoursAYear).toBeCloseTo((sum * answer.signInsPerDay * answer.workingDays) / 3600, 9);
    expect(answer.meanS).toBeCloseTo(
      first.reduce((total, ref) => total + computeFigures(reader.read(ref)!).timeline.totalS, 0) / first.length,
      9,
    );
  });

  test('the organisation’s own days count, and nobody is nothing', () => {
    const busy = new FactsReader(
      modelOf(
        { ...estate, organisation: estate.organisation.map((each) => ({ ...each, signInsPerDay: 6, workingDays: 365 })) },
        measurements,
      ),
      demoInstant,
    );
    const more = signonSavings(busy, crossings);
    for (const [i, { hoursAYear }] of more.savings.entries())
      expect(hoursAYear).toBeCloseTo(((answer.savings[i]?.hoursAYear ?? 0) * (6 * 365)) / (answer.signInsPerDay * answer.workingDays), 6);
    expect(signonSavings(reader, [])).toMatchObject({ people: 0, meanS: 0, savings: [] });
  });
});

describe('timed steps of a sign-in', () => {
  const steps = ['list of resources', 'password', 'broker', 'profile attach'] as const;
  /** Steps that are the gateway’s or the hosts’: common practice, no source. */
  const everybodys = ['list of resources', 'broker'];
  const anyMeasurement = fc.record({
    endpoint: fc.constantFrom('E1', 'E2', undefined),
    person: fc.constantFrom('P1', 'P2', undefined),
    recorded: fc.boolean(),
    signon: fc.dictionary(fc.constantFrom(...steps), fc.integer({ min: 1, max: 90 })),
  });

  test('come from the endpoint before the person before the place, the newest of equals; read plainly', () => {
    fc.assert(
      fc.property(fc.array(anyMeasurement, { maxLength: 8 }), (given) => {
        const all = given.map(
          ({ endpoint, person, recorded, signon }, i) =>
            ({
              id: `m${i}`,
              at: `2026-06-0${i + 1}T08:00:00.000Z`,
              by: 'x',
              method: recorded ? 'recorded sign-in' : 'reported by a portal',
              vantage: 'desk',
              location: 'L',
              partial: false,
              figures: { signon },
              ...(endpoint ? { endpoint } : {}),
              ...(person ? { person } : {}),
            }) as unknown as Measurement,
        );
        const chosen = chooseSignonTimes(all, 'E1', 'P1');
        for (const step of steps) {
          const having = all.filter(({ figures }) => figures.signon?.[step] !== undefined);
          const best =
            having.filter(({ endpoint }) => endpoint === 'E1').at(-1) ??
            having.filter(({ endpoint, person }) => endpoint === undefined && person === 'P1').at(-1) ??
            (everybodys.includes(step) ? having.filter(({ method }) => method === 'recorded sign-in').at(-1) : undefined);
          expect(chosen?.value[step]).toBe(best?.figures.signon?.[step]);
        }
      }),
    );
  });
});
