import { expect, test } from '@jest/globals';
import { completed, kindTraits, type Endpoint } from '@underpass/contracts';
import { demoEstate, demoInstant } from '../../test/demo.js';
import { changesOf, everyField } from '../../test/fields.js';
import { modelOf } from '../estate/index.js';
import { lineDemandOf } from './demandOf.js';
import { FactsReader, type CrossingFacts } from './index.js';
import { alone, Asks, counted, noTally, othersOf } from './shared.js';

const { estate, measurements } = demoEstate();
const reader = new FactsReader(modelOf(estate, measurements, { complete: completed, traits: kindTraits }), demoInstant);
const all = reader.model.crossings.map((ref) => reader.read(ref) as CrossingFacts);
const factsOf = ({ endpoint, evidence, gateway, resource, devices, resolved }: CrossingFacts) => ({
  ...{ endpoint, evidence, gateway, resource, devices, settings: resolved! },
});

/** Sums worked out for each crossing by itself. */
function sumsOf(crossings: readonly CrossingFacts[]) {
  const sums = { sum: 0, squares: 0, upSum: 0, upSquares: 0 };
  for (const facts of crossings) {
    const { meanMbps, sdMbps, upMbps } = lineDemandOf(facts, facts.resolved!);
    sums.sum += Math.round(meanMbps * 1e6);
    sums.squares += Math.round((sdMbps ** 2 + meanMbps ** 2) * 1e6);
    sums.upSum += Math.round(upMbps * 1e6);
    sums.upSquares += Math.round(upMbps ** 2 * 1e6);
  }
  return sums;
}

test('what crossings ask of a line is what each of them asks by itself, however many are alike', () => {
  const asks = new Asks();
  let tally = noTally;
  for (const facts of all) tally = counted(tally, asks.of(factsOf(facts)), 1);
  expect(tally).toEqual({ crossings: all.length, people: 0, ...sumsOf(all) });
  // and taken away again it comes to nothing
  for (const facts of all) tally = counted(tally, asks.of(factsOf(facts)), -1);
  expect(tally).toEqual(noTally);
});

test('whatever else is said of an endpoint, it asks what it asks by itself', () => {
  const asks = new Asks();
  const [one] = all as [CrossingFacts];
  let tried = 0;
  for (const { kind, path } of everyField) {
    if (kind !== 'endpoint') continue;
    for (const facts of all.filter(({ resource }) => resource === one.resource).slice(0, 5))
      for (const { set } of changesOf({ ...estate, endpoint: [facts.endpoint] }, 'endpoint', path, () => 0, 1)) {
        const changed = { ...facts, endpoint: completed('endpoint', { ...facts.endpoint, ...set }) as Endpoint };
        tried++;
        expect([path, asks.of(factsOf(changed))]).toEqual([path, sumsOf([changed])]);
      }
  }
  expect(tried).toBeGreaterThan(100);
});

test.each(['settings', 'evidence', 'gateway', 'devices'] as const)('another %s is worked out by itself', (part) => {
  const asks = new Asks();
  const facts = factsOf(all[0]!);
  const known = asks.of(facts);
  expect(asks.of(facts)).toBe(known);
  const other = asks.of({ ...facts, [part]: Array.isArray(facts[part]) ? [...facts[part]] : { ...facts[part] } });
  expect(other).not.toBe(known);
  expect(other).toEqual(known);
});

test('what the others on a line ask: means and spread of three who ask for 1, 2 and 6 Mbit/s', () => {
  // by hand: mean (1+2+6)/3 = 3; of the squares of the deviations the mean is (4+1+9)/3, the root of it 2.1602
  const location = { ...all[0]!.location, ownLines: false, sharedBy: undefined, activeShare: undefined } as CrossingFacts['location'];
  const tally = { crossings: 3, people: 3, sum: 9e6, squares: 41e6, upSum: 1.5e6, upSquares: 0.75e6 };
  const usual = reader.read(all[0]!.ref)!.estate.assumed.people;
  expect(othersOf(tally, location, usual)).toEqual({
    ...{ count: 2, activeShare: usual.activeShare, activeLow: usual.activeLow, activeHigh: usual.activeHigh },
    ...{ meanMbps: 3, sdMbps: Math.sqrt(41 / 3 - 9), upMeanMbps: 0.5, upSdMbps: 0 },
  });
  expect(Math.sqrt(41 / 3 - 9)).toBeCloseTo(2.1602, 4);
  expect(othersOf(tally, { ...location, ownLines: true }, usual)).toBe(alone);
  expect(othersOf(noTally, location, usual)).toBe(alone);
  expect(othersOf(tally, { ...location, sharedBy: 11, activeShare: 0.25 }, usual)).toMatchObject({
    ...{ count: 10, activeShare: 0.25, activeLow: 0.25, activeHigh: 0.25 },
  });
});
