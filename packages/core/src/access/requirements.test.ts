import { describe, expect, test } from '@jest/globals';
import { RequirementSet } from '@underpass/contracts';
import { shippedSets } from '@underpass/contracts/shipped';
import fc from 'fast-check';
import { demoEstate, demoInstant } from '../../test/demo.js';
import { estateReadiness } from '../tally/index.js';
import { editOfCondition, factReaderOf, FactsReader, readinessOf, settingsOf } from '../crossing/index.js';
import { doing } from '../change/index.js';
import { modelOf } from '../estate/index.js';
import { chooseHost } from '../hosts/index.js';
import { catalogue } from '../settings/index.js';
import { evaluateTest, guestState, leftBehindOutcomes, remedyOrder, type Work } from './index.js';

type Test = Parameters<typeof evaluateTest>[0];
const { estate, measurements } = demoEstate();
const reader = new FactsReader(modelOf(estate, measurements), demoInstant);
const setOf = (id: string) => estate.requirement.find((set) => set.id === id)!;
const factsOf = (id: string) => reader.read(reader.model.crossings.find((ref) => ref.id === id)!)!;

describe('tests over facts', () => {
  const facts: Record<string, unknown> = { a: true, b: false, n: 5, v: '3.10', list: ['base', 'agent 2.1', 'sync'] };
  const ask = (test: Test) => evaluateTest(test, (fact) => facts[fact]);

  test('follow the tables of Kleene’s strong logic, with a missing fact as the third value', () => {
    const leaf = { T: { fact: 'a', is: true }, F: { fact: 'b', is: true }, U: { fact: 'missing', is: true } } as const;
    const value = { T: true, F: false, U: null };
    // Kleene 1952, §64: conjunction is the least, disjunction the greatest of F < U < T
    const rank = { F: 0, U: 1, T: 2 };
    for (const x of ['T', 'F', 'U'] as const)
      for (const y of ['T', 'F', 'U'] as const) {
        expect(ask({ all: [leaf[x], leaf[y]] })).toBe(value[rank[x] < rank[y] ? x : y]);
        expect(ask({ any: [leaf[x], leaf[y]] })).toBe(value[rank[x] > rank[y] ? x : y]);
      }
    expect([ask({ not: leaf.T }), ask({ not: leaf.F }), ask({ not: leaf.U })]).toEqual([false, true, null]);
  });

  test('obey De Morgan whatever they are made of', () => {
    const anyTest: fc.Arbitrary<Test> = fc.letrec<{ test: Test }>((tie) => ({
      test: fc.oneof(
        { maxDepth: 4 },
        fc.constantFrom<Test>({ fact: 'a', is: true }, { fact: 'b', is: true }, { fact: 'missing', is: 1 }, { fact: 'n', atLeast: 7 }),
        fc.array(tie('test'), { minLength: 1, maxLength: 3 }).map((all) => ({ all })),
        fc.array(tie('test'), { minLength: 1, maxLength: 3 }).map((any) => ({ any })),
        tie('test').map((not) => ({ not })),
      ),
    })).test;
    fc.assert(
      fc.property(anyTest, anyTest, (x, y) => {
        expect(ask({ not: { all: [x, y] } })).toBe(ask({ any: [{ not: x }, { not: y }] }));
        expect(ask({ not: { not: x } })).toBe(ask(x));
      }),
    );
  });

  test('compare numbers as numbers, versions as versions, and lists by order of installation', () => {
    expect([ask({ fact: 'n', atLeast: 5 }), ask({ fact: 'n', below: 5 }), ask({ fact: 'n', oneOf: [4, 5] })]).toEqual([true, false, true]);
    expect([ask({ fact: 'v', atLeast: '3.9' }), ask({ fact: 'v', below: '3.10' }), ask({ fact: 'v', atLeast: '3.10.1' })]).toEqual([
      true,
      false,
      false,
    ]);
    expect(ask({ fact: 'a', atLeast: '3.9' })).toBeNull();
    expect([ask({ fact: 'list', includes: 'agent' }), ask({ fact: 'list', includes: 'other' })]).toEqual([true, false]);
    expect([
      ask({ fact: 'list', order: ['agent', 'sync'] }),
      ask({ fact: 'list', order: ['sync', 'agent'] }),
      ask({ fact: 'list', order: ['agent', 'other'] }),
    ]).toEqual([true, false, false]);
    expect([ask({ fact: 'missing', known: false }), ask({ fact: 'missing', known: true }), ask({ fact: 'missing', isNot: 3 })]).toEqual([
      true,
      false,
      null,
    ]);
  });

  test('a form that says too much, too little or a fact that is none is refused with the place', () => {
    const parse = (when: unknown) =>
      RequirementSet.safeParse({ ...shippedSets()[0], conditions: [{ ...shippedSets()[0]!.conditions[0], when }] });
    const said = (when: unknown) =>
      parse(when)
        .error?.issues.map((issue) => `${issue.path.join('.')} ${issue.message}`)
        .join('; ') ?? 'right';
    expect(said({ fact: 'host.release' })).toMatch(/conditions.0.when must compare host.release with exactly one of/);
    expect(said({ fact: 'host.release', is: 'x', atLeast: '1' })).toMatch(/exactly one of/);
    expect(said({ all: [], any: [] })).not.toBe('right');
    expect(said({ all: [{ fact: 'moon.phase', is: 'full' }] })).toMatch(/when.all.0.fact “moon.phase” is not a fact/);
    expect(said({ fact: 'host.colour', is: 'red' })).toMatch(/host has no field “colour”/);
    expect(said({ fact: 'host.__proto__', is: 'red' })).not.toBe('right');
    expect(said({ fact: 'setting.session.startOnly', is: true })).toBe('right');
  });
});

describe('the shipped sets on the demo estate', () => {
  test('guests: one has ended, one has not accepted, the others get in with a fallback that costs something', () => {
    const result = estateReadiness(reader, setOf('outside-guests'));
    expect([result.ready, result.fallback, result.notReady, result.notKnown]).toEqual([0, 10, 2, 0]);
    expect(result.blockers.map(({ condition, people, alone }) => [condition, people, alone])).toEqual([
      ['end-date', 1, 1],
      ['invitation', 1, 1],
    ]);
    const guest = readinessOf(setOf('outside-guests'), factsOf('P382~OS-004~guest-plans'))!;
    expect(guest.conditions.find(({ condition }) => condition.id === 'client')).toMatchObject({
      state: 'fallback',
      alternative: { costs: expect.stringContaining('USB') },
    });
    expect(readinessOf(setOf('outside-guests'), factsOf('P001~HO-001~documents'))).toBeNull();
  });

  test('each condition of each set can fail by its own fact and be mended by it', () => {
    const guest = factsOf('P382~OS-004~guest-plans');
    const failing: [string, typeof guest][] = [
      ['end-date', { ...guest, person: { ...guest.person, guest: { ...guest.person.guest!, endsOn: '2026-11-24' } } }],
      ['invitation', { ...guest, person: { ...guest.person, guest: { ...guest.person.guest!, invitation: 'sent' } } }],
      ['country', { ...guest, person: { ...guest.person, guest: { ...guest.person.guest!, country: undefined } } }],
      ['client', { ...guest, endpoint: { ...guest.endpoint, clientKind: 'native client', clientVersion: '3.7' } }],
      ['pool-sign-in', { ...guest, pool: { ...guest.pool, signIn: ['own directory'] } }],
      ['host-release', { ...guest, hosts: guest.hosts.map((host) => ({ ...host, release: '11.3' })) }],
      ['sign-in-right', { ...guest, pool: { ...guest.pool, signInGroups: ['finance'] } }],
      ['entitled', { ...guest, portal: undefined }],
    ];
    for (const [condition, facts] of failing) {
      const result = readinessOf(setOf('outside-guests'), facts)!;
      expect([condition, result.conditions.filter(({ state }) => state === 'not met').map((each) => each.condition.id)]).toEqual([
        condition,
        [condition],
      ]);
    }
    expect(new Set(failing.map(([id]) => id))).toEqual(new Set(setOf('outside-guests').conditions.map(({ id }) => id)));
    const unknown = { ...guest, hosts: guest.hosts.map(({ release: _release, ...host }) => host) };
    expect(readinessOf(setOf('outside-guests'), unknown)?.readiness).toBe('not known');
  });

  test('a remedy that is a change meets its condition where it is tried, and un-meets no other', () => {
    let tried = 0;
    for (const set of estate.requirement)
      for (const ref of reader.model.crossings) {
        const facts = reader.read(ref)!;
        const host = chooseHost(facts.pool, facts.hosts);
        for (const { condition, state } of readinessOf(set, facts)?.conditions ?? []) {
          const edit = state === 'not met' ? editOfCondition(condition, facts, host) : null;
          if (!edit) continue;
          tried++;
          const stateAfter = new Map(
            readinessOf(set, reader.after(doing(edit)).read(ref)!)?.conditions.map((each) => [each.condition.id, each.state]),
          );
          expect([ref.id, condition.id, stateAfter.get(condition.id)]).toEqual([ref.id, condition.id, 'met']);
          for (const other of readinessOf(set, facts)!.conditions)
            if (other.state !== 'not met') expect(stateAfter.get(other.condition.id)).not.toBe('not met');
        }
      }
    expect(tried).toBeGreaterThan(0);
  });

  test('a fact is the field of its object, the version of a program, or the setting in force; a missing one is not known', () => {
    for (const ref of reader.model.crossings.filter((_, i) => i % 50 === 0)) {
      const facts = reader.read(ref)!;
      const host = chooseHost(facts.pool, facts.hosts);
      const settings = settingsOf(facts);
      const read = factReaderOf(
        facts,
        () => settings,
        () => host,
      );
      const objects = { ...facts, host } as unknown as Record<string, Record<string, unknown> | undefined>;
      for (const root of ['person', 'endpoint', 'location', 'resource', 'pool', 'host', 'gateway', 'publication', 'portal'])
        for (const [field, value] of Object.entries(objects[root] ?? {}))
          expect([root, field, read(`${root}.${field}`)]).toEqual([root, field, value]);
      for (const key of Object.keys(catalogue)) expect(read(`setting.${key}`)).toEqual(settings[key as keyof typeof settings]);
      for (const entry of host?.installed ?? []) {
        const [name = '', version = '0'] = entry.split(' ');
        expect(read(`host.installed.${name}`)).toBe(version);
      }
      expect(read('host.installed.never-there')).toBe(host?.installed ? '0' : undefined);
      // read from the objects again, not from what the facts were made of
      const person = estate.person.find(({ id }) => id === ref.person)!;
      expect(read('resources')).toBe(reader.model.access.of(person.groups).seen.length);
      expect(read('entitled')).toBe(reader.model.access.of(person.groups).held.some(({ resource }) => resource === ref.resource));
      expect(read('person.guest.nothing.at.all')).toBeUndefined();
    }
  });

  test('the order of remedies: whoever a step promises gets through with it, and the best rate comes first', () => {
    const { remedies, notReady } = estateReadiness(reader, setOf('app-file-sync'));
    expect(remedies.reduce((sum, step) => sum + step.people.length, 0)).toBe(notReady);
    fc.assert(
      fc.property(
        fc.array(fc.uniqueArray(fc.nat(5), { maxLength: 4 }), { maxLength: 12 }),
        fc.array(fc.integer({ min: 1, max: 9 }), { minLength: 6, maxLength: 6 }),
        (needs, efforts) => {
          const works = new Map(
            efforts.map((effortH, i): [string, Work] => [`w${i}`, { key: `w${i}`, condition: `w${i}`, object: 'x', effortH }]),
          );
          const people = new Map(needs.map((keys, i) => [`p${i}`, new Set(keys.map((n) => `w${n}`))]));
          const done = new Set<string>();
          const through: string[] = [];
          const steps = remedyOrder(people, works);
          for (const step of steps) {
            for (const work of step.works) done.add(work.key);
            for (const person of step.people) expect([...people.get(person)!].every((key) => done.has(key))).toBe(true);
            through.push(...step.people);
          }
          expect(through.sort()).toEqual(
            [...people]
              .filter(([, keys]) => keys.size > 0)
              .map(([id]) => id)
              .sort(),
          );
          // no single person could have been helped at a better rate than the first step
          const rate = steps[0] ? steps[0].people.length / steps[0].effortH : Infinity;
          for (const keys of people.values())
            if (keys.size) expect(rate).toBeGreaterThanOrEqual(1 / [...keys].reduce((sum, key) => sum + works.get(key)!.effortH, 0) - 1e-9);
        },
      ),
    );
  });
});

test('guests: the last day counts whole, and a guest without a record is told as one', () => {
  const guest = (endsOn: string, invitation: 'sent' | 'accepted' = 'accepted') => ({
    guest: { owner: 'P1', organisation: 'O', endsOn, invitation },
  });
  const at = Date.parse('2026-11-25T23:59:00Z');
  expect(guestState(guest('2026-11-25'), at)).toBe('ending soon');
  expect(guestState(guest('2026-11-24'), at)).toBe('ended');
  expect(guestState(guest('2026-12-24'), at)).toBe('ending soon');
  expect(guestState(guest('2026-12-25'), at)).toBe('current');
  expect(guestState(guest('2027-12-27', 'sent'), at)).toBe('not accepted');
  expect(guestState({}, at)).toBe('not recorded');
});

test('sessions left behind: what each choice does, and never all on top of each other unnoticed', () => {
  const told = estate.session.filter(({ person }) => person === 'P005').map((session) => ({ ...session, resourceName: session.resource }));
  const outcomes = leftBehindOutcomes(told, { id: 'documents', name: 'Document viewer' });
  expect(outcomes.map(({ choice, takesUp }) => [choice, takesUp])).toEqual([
    ['ask', []],
    ['most recent', ['S-1041']],
    ['none', []],
    ['all', ['S-1041', 'S-1042']],
  ]);
  expect(outcomes[1]?.warning).toBe('timetable opens although Document viewer was wanted');
  expect(outcomes[2]?.warning).toContain('is not there');
  expect(outcomes[3]?.warning).toBe('2 sessions open on top of each other');
  expect(leftBehindOutcomes(told.slice(0, 1), { id: 'hull', name: 'Hull design' })[3]?.warning).toBe(
    '2 sessions open on top of each other',
  );
  expect(leftBehindOutcomes([], { id: 'hull', name: 'Hull design' })).toEqual([]);
});
