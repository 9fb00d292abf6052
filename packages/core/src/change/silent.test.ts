import { describe, expect, test } from '@jest/globals';
import { columnsOf, completed, kindTraits, objectKinds, objectSchemas, RequirementSet, type ObjectKind } from '@underpass/contracts';
import { demoEstate, demoInstant } from '../../test/demo.js';
import { changesOf } from '../../test/fields.js';
import { evaluateCrossing, FactsReader, summariseCrossing, touchedBy } from '../crossing/index.js';
import { modelOf, type CrossingRef } from '../estate/index.js';
import { crossingsTouched, doing, fieldsTo, touchOf } from './index.js';

const { estate, measurements } = demoEstate();
/** Fields that are said to be silent, each part of one by itself; requirement sets are nested without end. */
const partsOf = (kind: ObjectKind, said: string): string[] =>
  kind === 'requirement'
    ? [said]
    : columnsOf(objectSchemas[kind] as never).flatMap(({ name }) => (name === said || name.startsWith(`${said}.`) ? [name] : []));
const silent = objectKinds.flatMap((kind) =>
  kindTraits[kind].silent.flatMap((said) => partsOf(kind, said).map((field) => ({ kind, field }))),
);
/** Changes tried of each field; `CHANGES=5` goes deeper. */
const most = Number(process.env.CHANGES ?? 1);
/** Of all crossings another part is looked at for each field; all of them where it is asked to go deeper. */
const parts = process.env.CHANGES ? 1 : 3;
let seed = 7;
/** A different place of a list each time, the same ones in every run [Park and Miller 1988]. */
const pick = (n: number): number => (seed = (seed * 48_271) % 2_147_483_647) % Math.max(1, n);

/** The estate with one more gate that asks for a field. */
const asking = (fact: string) => {
  const gate = RequirementSet.parse({
    id: 'asking',
    name: 'Asking',
    purpose: 'To ask for one fact',
    breaks: 'signed in',
    appliesTo: { fact: 'entitled', is: true },
    conditions: [
      {
        id: 'asked',
        name: 'Asked',
        bay: 'Gateway',
        when: { not: fact.endsWith('.worksOn') ? { fact, includes: 'sat' } : { fact, oneOf: Object.values(becomes).flat() } },
        remedy: 'Mend it',
        who: 'Us',
        at: 'person',
        effortH: 1,
      },
    ],
  });
  return modelOf({ ...estate, requirement: [...estate.requirement, gate] }, measurements, { complete: completed, traits: kindTraits });
};
const summaryOf = (reader: FactsReader, ref: CrossingRef) => {
  const facts = reader.read(ref);
  return JSON.stringify(facts && summariseCrossing(facts));
};
const told = (reader: FactsReader, ref: CrossingRef) => {
  const facts = reader.read(ref);
  return JSON.stringify(facts && evaluateCrossing(facts).findings);
};
/** What each field becomes, as the gate asks for it. */
const becomes: Record<string, string | string[] | boolean> = {
  'wifi.name': 'Another name',
  'wifi.security': 'SAE',
  'wifi.hidden': true,
  'wifi.key': 'Another name',
  cable: true,
  firmware: '9.9.9',
  clock: 'wrong',
  model: 'Another name',
  bootMode: 'uefi',
  worksOn: ['sat'],
  name: 'Another name',
  area: 'Another name',
  address: 'https://other.example',
  addressRange: '192.0.2.0/24',
  kind: 'home',
  reportedAt: '2026-11-24T08:00:00Z',
};

describe('a field that says nothing to the results', () => {
  const model = modelOf(estate, measurements, { complete: completed, traits: kindTraits });
  const reader = new FactsReader(model, demoInstant);
  const before = new Map(model.crossings.map((ref) => [ref.id, summaryOf(reader, ref)]));

  test.each(silent)('$kind.$field: whatever it is, every crossing comes out the same', ({ kind, field }) => {
    for (const { id, set } of changesOf(estate, kind, field, pick, most)) {
      const after = reader.after(doing(fieldsTo(kind, id, set)));
      const part = pick(parts);
      for (const ref of model.crossings.filter((_, i) => i % parts === part))
        if (summaryOf(after, ref) !== before.get(ref.id))
          throw new Error(`${ref.id} is another by ${kind}.${field} ${JSON.stringify(set)}`);
    }
  });

  test.each(silent)('$kind.$field: where the words of a finding have it, those are said to be touched', ({ kind, field }) => {
    for (const { id, set } of changesOf(estate, kind, field, pick, most)) {
      const after = reader.after(doing(fieldsTo(kind, id, set)));
      const texts = new Set([...crossingsTouched(touchOf(after.model.laid!, after.model, 'words'), after.model)].map((ref) => ref.id));
      const part = pick(23);
      for (const ref of model.crossings.filter((_, i) => i % 23 === part))
        if (!texts.has(ref.id) && told(after, ref) !== told(reader, ref))
          throw new Error(`${ref.id} is told otherwise by ${kind}.${field}`);
    }
  });
});

describe('where a gate asks for it, it counts', () => {
  // whatever a set can ask for stands on the way of a crossing
  const asked = silent.filter(({ kind }) => ['endpoint', 'location', 'publication', 'portal'].includes(kind));
  test.each(asked)('$kind.$field', ({ kind, field }) => {
    const model = asking(`${kind}.${field}`);
    const reader = new FactsReader(model, demoInstant);
    const before = new Map(model.crossings.map((ref) => [ref.id, summaryOf(reader, ref)]));
    let others = 0;
    for (const ref of model.crossings.filter((_, i) => i % 280 === 0)) {
      const facts = reader.read(ref);
      const id = facts?.[kind as 'endpoint' | 'location' | 'publication' | 'portal']?.id;
      if (id === undefined) continue;
      const after = reader.after(doing(fieldsTo(kind, id, { [field]: becomes[field] })));
      const touched = new Set(touchedBy(reader, after).after.map((ref) => ref.id));
      for (const ref of model.crossings) {
        if (summaryOf(after, ref) === before.get(ref.id)) continue;
        others++;
        if (!touched.has(ref.id)) throw new Error(`${ref.id} is another by ${kind}.${field} and is not said to be touched`);
      }
    }
    // the gate really asks: without that nothing would be tried here
    expect(others).toBeGreaterThan(0);
  });
});
