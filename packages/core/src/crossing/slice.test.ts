import { describe, expect, test } from '@jest/globals';
import { completed, kindTraits, referencesOf } from '@underpass/contracts';
import { demoEstate, demoInstant } from '../../test/demo.js';
import { changesOf, everyField } from '../../test/fields.js';
import { doing, fieldsTo } from '../change/index.js';
import { modelOf } from '../estate/index.js';
import { evaluateCrossing, FactsReader, readerOfSlice, sliceOf, staysWithin, type Slice } from './index.js';

const { estate, measurements } = demoEstate();
const options = { complete: completed, traits: kindTraits };
const reader = new FactsReader(modelOf(estate, measurements, options), demoInstant);
const overTheWire = (slice: Slice): Slice => JSON.parse(JSON.stringify(slice)) as Slice;
const evaluated = (from: FactsReader, ref: Slice['ref']) => {
  const facts = from.read(ref);
  return facts && evaluateCrossing(facts);
};

describe('the slice of a crossing', () => {
  test('sent as JSON and read as an estate it gives the same crossing, to the last remedy', () => {
    for (const ref of reader.model.crossings.filter((_, i) => i % 40 === 0)) {
      const slice = overTheWire(sliceOf(reader, ref)!);
      expect([ref.id, evaluated(readerOfSlice(slice, options), ref)]).toEqual([ref.id, evaluated(reader, ref)]);
    }
  });

  test('a change that stays within it comes to the same as on the whole estate; one that goes beyond is told', () => {
    let seed = 7;
    const pick = (n: number) => (seed = (seed * 48_271) % 2_147_483_647) % Math.max(1, n);
    const most = Number(process.env.CHANGES ?? 2);
    const counts = { within: 0, beyond: 0 };
    for (const { kind, path } of everyField) {
      const ref = reader.model.crossings[pick(reader.model.crossings.length)]!;
      const slice = readerOfSlice(overTheWire(sliceOf(reader, ref)!), options);
      // names of what is not in the slice are tried as well
      for (const { id, set } of changesOf(estate, kind, path, pick, most, [...slice.model.all(kind).values()])) {
        const change = doing(fieldsTo(kind, id, set));
        if (!staysWithin(slice, change, referencesOf)) counts.beyond++;
        else {
          counts.within++;
          expect([kind, path, id, evaluated(slice.after(change), ref)]).toEqual([kind, path, id, evaluated(reader.after(change), ref)]);
        }
      }
    }
    expect(counts.within).toBeGreaterThan(150);
    expect(counts.beyond).toBeGreaterThan(2);
  });
});
