import { describe, expect, test } from '@jest/globals';
import type { DeviceOption } from '@underpass/contracts';
import fc from 'fast-check';
import { costUntil, crossovers } from '../index.js';

const option = (id: string, more: Partial<DeviceOption>): DeviceOption => ({
  ...{
    id,
    name: id,
    purchase: 100,
    accessories: 0,
    licencePerYear: 0,
    supportMinutesPerYear: 0,
    watts: 0,
    lifeYears: 5,
    lostPercentPerYear: 0,
  },
  ...more,
});
const work = { hoursPerYear: 2000, perKwh: 0.25, perSupportHour: 60 };

describe('what a device costs', () => {
  // by hand: 300 + 40; 3 years of 20, of 30 min × 60, of 10 W × 2000 h × 0.25, of 5 % of 340
  test('by what it is for', () => {
    const one = option('one', {
      purchase: 300,
      accessories: 40,
      licencePerYear: 20,
      supportMinutesPerYear: 30,
      watts: 10,
      lostPercentPerYear: 5,
    });
    const { bought, licence, support, energy, lost, total } = costUntil(one, work, 3);
    expect([bought, licence, support, energy, lost].map((each) => Number(each.toFixed(6)))).toEqual([340, 60, 90, 15, 51]);
    expect(total).toBeCloseTo(556, 9);
  });

  test.each([
    [0, 100],
    [4.999, 100],
    [5, 100],
    [5.001, 200],
    [10, 200],
    [10.001, 300],
  ])('bought again behind the end of its life: %f years', (years, bought) =>
    expect(costUntil(option('a', {}), work, years).bought).toBe(bought),
  );
});

describe('where another becomes the cheaper one', () => {
  test('by hand: 100 + 50 t against 250 + 20 t meet at 5 years and 350', () => {
    const [dear, cheap] = [
      option('dear', { purchase: 250, licencePerYear: 20, lifeYears: 20 }),
      option('cheap', { licencePerYear: 50, lifeYears: 20 }),
    ];
    const [cross, ...more] = crossovers(cheap, dear, work, 10);
    expect(cross).toMatchObject({ cheaper: 'dear', step: false });
    expect([cross?.atYears, cross?.total].map((each) => Number(each?.toFixed(4)))).toEqual([5, 350]);
    expect(more).toEqual([]);
    expect(crossovers(dear, cheap, work, 10)).toEqual([expect.objectContaining({ cheaper: 'dear' })]);
    // not within the time that is looked at
    expect(crossovers(cheap, dear, work, 4.99)).toEqual([]);
  });

  test('by a step, where one is bought again, and back', () => {
    // 100 every 2 years against 150 every 5: 200 from 2 on, 300 from 4 on against 300 from 5 on
    const [short, long] = [option('short', { lifeYears: 2 }), option('long', { purchase: 150, lifeYears: 5 })];
    expect(crossovers(short, long, work, 6)).toEqual([expect.objectContaining({ atYears: 2, cheaper: 'long', step: true })]);
  });

  test('every turn by hand: a step, what both have cost there, and the way back', () => {
    // a: 100 at 0, 2, 4 and 10 a year; b: 205 at 0 and 5 and nothing a year. Until 2 a is cheaper (120 against 205); from 2 on a is 200 + 10 t:
    // 220 against 205, so b by a step; at 5 b is bought again: 410 against 350, so a by a step
    const [a, b] = [option('a', { lifeYears: 2, licencePerYear: 10 }), option('b', { purchase: 205, lifeYears: 5 })];
    const told = (one: DeviceOption, other: DeviceOption, years: number) =>
      crossovers(one, other, work, years).map(({ atYears, cheaper, total, step }) => [
        Number(atYears.toFixed(6)),
        cheaper,
        Number(total.toFixed(6)),
        step,
      ]);
    const turns = [
      [2, 'b', 205, true],
      [5, 'a', 350, true],
    ];
    // at the very instant of a purchase nobody has bought yet
    expect(told(a, b, 5.5)).toEqual(turns);
    expect(told(b, a, 5.5)).toEqual(turns);
    // until just there nothing is bought again
    expect(told(a, b, 2)).toEqual([]);
    expect(told(a, b, 5)).toEqual(turns.slice(0, 1));
  });

  test('level just behind a purchase: the one that goes up less is cheaper from there on', () => {
    // 100 and 50 a year against 50 twice and none: at 1 both are level only where 100 + 50 t is 50 + 50 and more; never below
    const [even, steep] = [
      option('even', { purchase: 100, lifeYears: 9 }),
      option('steep', { purchase: 100, lifeYears: 9, licencePerYear: 5 }),
    ];
    for (const [one, other] of [
      [even, steep],
      [steep, even],
    ] as const)
      expect(crossovers(one, other, work, 4)).toEqual([]);
    // 200 once against 100 every two years and 1 a year less: cheaper until 2, and level in what was paid behind it
    const [once, twice] = [
      option('once', { purchase: 204, lifeYears: 9, licencePerYear: 3 }),
      option('twice', { purchase: 100, lifeYears: 2, licencePerYear: 5 }),
    ];
    // just behind 2: 204 + 6 against 200 + 10, and from there on the first goes up less
    expect(crossovers(once, twice, work, 3).map(({ atYears, cheaper }) => [atYears, cheaper])).toEqual([[2, 'once']]);
    expect(crossovers(twice, once, work, 3).map(({ atYears, cheaper }) => [atYears, cheaper])).toEqual([[2, 'once']]);
  });

  test('two that cost the same never do', () => expect(crossovers(option('a', {}), option('b', {}), work, 20)).toEqual([]));

  test('between two crossings the same one is cheaper, tried at many instants', () => {
    const any = (id: string) =>
      fc
        .record({
          purchase: fc.integer({ min: 50, max: 900 }),
          licencePerYear: fc.integer({ min: 0, max: 200 }),
          lifeYears: fc.constantFrom(2, 3, 5, 8),
          watts: fc.integer({ min: 0, max: 90 }),
          lostPercentPerYear: fc.integer({ min: 0, max: 30 }),
        })
        .map((more) => option(id, more));
    fc.assert(
      fc.property(any('a'), any('b'), (a, b) => {
        const found = crossovers(a, b, work, 12);
        let at = 0;
        for (const [i, next] of [...found, null].entries()) {
          const end = next?.atYears ?? 12;
          const holds = i === 0 ? null : found[i - 1]?.cheaper;
          for (const share of [0.1, 0.5, 0.9]) {
            const years = at + (end - at) * share;
            const apart = costUntil(a, work, years).total - costUntil(b, work, years).total;
            // the side that the next crossing leaves, and the last one gave
            if (Math.abs(apart) > 1e-3 && holds) expect([years, apart < 0 ? 'a' : 'b']).toEqual([years, holds]);
            if (Math.abs(apart) > 1e-3 && next) expect(apart < 0 ? 'a' : 'b').not.toBe(next.cheaper);
          }
          at = end;
        }
      }),
    );
  });
});
