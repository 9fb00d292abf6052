import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import { demoEstate, demoInstant } from '../../test/demo.js';
import { isTouched } from '../change/index.js';
import { modelOf } from '../estate/index.js';
import { FactsReader, nextMoment, summariseCrossing } from './index.js';

const { estate, measurements } = demoEstate();
const model = modelOf(estate, measurements);
const refs = model.crossings.filter((_, i) => i % 6 === 0);
const guests = model.crossings.filter(({ person }) => model.people.get(person)?.guest);
const at = (ms: number) => {
  const reader = new FactsReader(model, ms);
  return [...refs, ...guests].map((ref) => JSON.stringify(summariseCrossing(reader.read(ref)!)));
};

test('between two moments time alone changes nothing; at one it changes only what the moment touches', () => {
  fc.assert(
    fc.property(fc.integer({ min: -90, max: 400 }), fc.double({ min: 0, max: 1, maxExcluded: true, noNaN: true }), (days, share) => {
      const startMs = demoInstant + days * 86_400_000;
      const moment = nextMoment(model, startMs);
      const endMs = moment?.atMs ?? startMs + 1e12;
      const before = at(startMs);
      expect(at(startMs + Math.floor(share * (endMs - startMs)))).toEqual(before);
      expect(at(endMs - 1)).toEqual(before);
      if (!moment) return;
      at(endMs).forEach((summary, i) => {
        const ref = [...refs, ...guests][i]!;
        if (!isTouched(moment.touch, ref)) expect([ref.id, summary]).toEqual([ref.id, before[i]]);
      });
    }),
    { numRuns: 12 },
  );
});

test('the next moment is a certificate’s, a guest’s or a midnight: the first thing in the demo that time brings', () => {
  const ends = (person: string) => Date.parse(`${model.people.get(person)!.guest!.endsOn}T00:00:00Z`) + 86_400_000;
  const before = ends('P381') - 1;
  const moment = nextMoment(model, before)!;
  expect(moment.atMs).toBe(ends('P381'));
  expect(moment.touch.people.has('P381')).toBe(true);
  expect(nextMoment(modelOf({ ...estate, gateway: [], person: [] }, []), demoInstant)).toBeNull();
});

test('a measurement weighs less at midnight UTC after 90 days and every 30 that follow: at its place, or for its endpoint where each has a line', () => {
  const one = (location: string, endpoint?: string) =>
    modelOf({ ...estate, gateway: [], person: [] }, [
      { ...measurements[0]!, at: '2026-11-02T08:07:00Z', location, ...(endpoint ? { endpoint } : {}) },
    ]);
  const touched = (in_: typeof model, day: string) => {
    const midnightMs = Date.parse(`${day}T00:00:00Z`);
    const moment = nextMoment(in_, midnightMs - 3600_000)!;
    expect(moment.atMs).toBe(midnightMs);
    return [...moment.touch.locations, ...moment.touch.endpoints];
  };
  // 2 November and 90 days: 31 January; the next step 2 March
  expect(['2027-01-30', '2027-01-31', '2027-02-01', '2027-03-02'].map((day) => touched(one('wexcombe'), day))).toEqual([
    [],
    ['wexcombe'],
    [],
    ['wexcombe'],
  ]);
  expect(touched(one('home', 'CD-001'), '2027-01-31')).toEqual(['CD-001']);
});
