import { describe, expect, test } from '@jest/globals';
import { completed, kindTraits, type Endpoint, type Estate, type Person, RequirementSet } from '@underpass/contracts';
import { demoEstate, demoInstant } from '../../test/demo.js';
import { changesOf, everyField } from '../../test/fields.js';
import { modelOf } from '../estate/index.js';
import { likeness } from './alike.js';
import { Alike, FactsReader, summariseCrossing, type CrossingFacts, type Summary } from './index.js';

const { estate, measurements } = demoEstate();
const ofEach = (facts: CrossingFacts) => summariseCrossing(facts);
const readerOf = (changed: Partial<Estate> = {}) =>
  new FactsReader(modelOf({ ...estate, ...changed }, measurements, { complete: completed, traits: kindTraits }), demoInstant);
const factsOf = (reader: FactsReader) => reader.model.crossings.map((ref) => reader.read(ref) as CrossingFacts);

/** How many summaries are worked out for the crossings, each being what it is when worked out by itself. */
function workedOut(facts: readonly CrossingFacts[], alike = new Alike<Summary>(ofEach)): number {
  const found = new Set<Summary>();
  for (const each of facts) {
    const summary = alike.of(each);
    expect([each.ref.id, summary]).toEqual([each.ref.id, summariseCrossing(each)]);
    found.add(summary);
  }
  return found.size;
}

const reader = readerOf();
const all = factsOf(reader);
/** Two at one place that differ by their names alone. */
const [one, other] = (() => {
  const alike = new Alike<Summary>(ofEach);
  const first = new Map<Summary, CrossingFacts>();
  for (const facts of all) {
    const summary = alike.of(facts);
    const before = first.get(summary);
    if (before && before.endpoint !== facts.endpoint && before.person !== facts.person) return [before, facts];
    first.set(summary, facts);
  }
  throw new Error('no two crossings of the demo are alike');
})();
/** Whether what is worked out of one holds for the other: what it is does not matter here. */
const isOne = (a: CrossingFacts, b: CrossingFacts) => {
  const alike = new Alike<object>(() => ({}));
  return alike.of(a) === alike.of(b);
};
const elsewhere = (facts: CrossingFacts, changed: Partial<CrossingFacts>): CrossingFacts => ({ ...facts, ...changed });

test('every crossing of the demo comes to what it comes to by itself, and a good part of them is worked out once for several', () => {
  const count = workedOut(all);
  expect(count).toBeLessThan(all.length * 0.8);
  // for long the same, whatever was compared before
  expect(workedOut(all, new Alike<Summary>(ofEach))).toBe(count);
});

describe('two that differ by their names alone are one', () => {
  test('and are told apart by anything else that is said of the endpoint', () => {
    expect(isOne(one, other)).toBe(true);
    const fields = everyField.filter(({ kind, path }) => kind === 'endpoint' && !['name', 'person', 'users'].includes(path));
    let tried = 0;
    for (const { path } of fields)
      for (const { set } of changesOf({ ...estate, endpoint: [other.endpoint] }, 'endpoint', path, () => 0, 1)) {
        const endpoint = completed('endpoint', { ...other.endpoint, ...set }) as Endpoint;
        if (JSON.stringify(endpoint) === JSON.stringify(other.endpoint)) continue;
        tried++;
        expect([path, isOne(one, elsewhere(other, { endpoint }))]).toEqual([path, false]);
      }
    expect(tried).toBeGreaterThan(15);
  });
  test('and by what is said of the person', () => {
    const named = (said: Partial<Person>) => elsewhere(other, { person: { ...other.person, ...said } });
    expect(isOne(one, named({ id: 'Q1', name: 'Somebody else' }))).toBe(true);
    expect(isOne(one, named({ kind: one.person.kind === 'staff' ? 'seasonal' : 'staff' }))).toBe(false);
    expect(isOne(one, named({ location: 'nowhere' }))).toBe(false);
  });
  test('by every fact that is there', () => expect(Object.keys(likeness).sort()).toEqual(Object.keys(one).sort()));
  test.each((Object.keys(one) as (keyof CrossingFacts)[]).filter((fact) => likeness[fact] === 'same' && fact !== 'resource'))(
    'and by another %s',
    (fact) => {
      const now = one[fact];
      const copied = Array.isArray(now) ? [...(now as unknown[])] : { ...(now as object) };
      const another = typeof now === 'boolean' ? !now : typeof now === 'number' ? now + 1 : copied;
      expect(isOne(one, elsewhere(other, { [fact]: another }))).toBe(false);
    },
  );
  test('and by other groups', () => {
    expect(isOne(one, elsewhere(other, { subject: { ...other.subject, groups: [...other.subject.groups] } }))).toBe(false);
  });
});

describe('where a name decides, each is worked out by itself', () => {
  const gate = (fact: string) =>
    RequirementSet.parse({
      ...{ id: 'gate', name: 'Gate', purpose: 'To ask', breaks: 'signed in', appliesTo: { fact: 'entitled', is: true } },
      conditions: [
        {
          ...{ id: 'asked', name: 'Asked', bay: 'Endpoint', when: { fact, isNot: other.endpoint.name } },
          ...{ remedy: 'Rename it', who: 'Us', at: 'endpoint', effortH: 1 },
        },
      ],
    });
  const asking = (fact: string) => elsewhere(one, { gates: [gate(fact)] });
  const sameGates = (fact: string) => {
    const facts = asking(fact);
    return [facts, elsewhere(other, { gates: facts.gates })] as const;
  };
  test.each(['endpoint.name', 'endpoint.id', 'endpoint.users', 'endpoint.person', 'person.name', 'person.id'])(
    'by a condition that asks for %s',
    (fact) => expect(isOne(...sameGates(fact))).toBe(false),
  );
  test('a condition that asks for what both have in common lets them be one', () => {
    expect(isOne(...sameGates('endpoint.platform'))).toBe(true);
    workedOut(factsOf(readerOf({ requirement: [...estate.requirement, gate('endpoint.name')] })));
  });
  test('by the form in which gateway or host want it written, or a setting that rewrites it', () => {
    const gateway = { ...one.gateway, nameForm: 'bare' as const };
    expect(isOne(elsewhere(one, { gateway }), elsewhere(other, { gateway }))).toBe(false);
    const pool = { ...one.pool, nameForm: 'bare' as const };
    expect(isOne(elsewhere(one, { pool }), elsewhere(other, { pool }))).toBe(false);
    const resolved = { ...one.resolved!, 'signon.hostName': '{name}@example.test' };
    expect(isOne(elsewhere(one, { resolved }), elsewhere(other, { resolved }))).toBe(false);
    expect(isOne(elsewhere(one, { resolved: undefined }), elsewhere(other, { resolved: undefined }))).toBe(false);
  });
});

test('more than are kept, and more that say something else than are told apart, still come to the same', () => {
  const alike = new Alike(({ endpoint, person }) => ({ endpoint: endpoint.id, person: person.id }));
  const facts = Array.from({ length: 5200 }, (_, i) => elsewhere(one, { endpoint: { ...one.endpoint, model: `Model ${i}` } }));
  const first = alike.of(facts[0]!);
  for (const each of facts) expect(alike.of(each)).toEqual(first);
  expect(alike.of(elsewhere(facts[5199]!, { endpoint: { ...facts[5199]!.endpoint } }))).toBe(alike.of(facts[5199]!));
});
