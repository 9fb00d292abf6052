import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { anyCrossing, otherwiseOf } from '../../test/anySmall.js';
import { of } from '../../test/judged.js';
import { reached, small, trips, type Otherwise } from '../../test/small.js';
import { computeFigures, dayOf } from './index.js';

const rank = { clear: 0, unknown: 1, limited: 2, blocked: 3 };
const clock = (hour: number) => `${String(hour).padStart(2, '0')}:00`;

describe('over the hours of a day', () => {
  test('no hour in which the place works comes out worse than what is told of the crossing, at any place, on any line', () => {
    const hours = fc.record({ from: fc.integer({ min: 0, max: 23 }), to: fc.integer({ min: 0, max: 23 }) });
    const kinds = fc.constantFrom('fibre', 'cable', '4g', 'leo-satellite', 'geo-satellite');
    fc.assert(
      fc.property(anyCrossing, hours, kinds, fc.boolean(), (any, { from, to }, lineKind, ownLines) => {
        const made = otherwiseOf({ ...any, lineKind: lineKind as never });
        const facts = small({ ...made, location: { ...made.location, worksFrom: clock(from), worksTo: clock(to), ownLines } });
        const { verdict, delay, frames } = computeFigures(facts);
        for (const one of dayOf(facts).hours.filter(({ works }) => works)) {
          expect(rank[one.verdict]).toBeLessThanOrEqual(rank[verdict]);
          expect(one.delayMs).toBeLessThanOrEqual(delay.value + 1e-6);
          expect(one.frames).toBeGreaterThanOrEqual(frames.value - 1e-6);
        }
      }),
      { numRuns: 150 },
    );
  });

  // 40 people on 4G, 30 Mbit/s measured at noon
  const van = (more: object = {}, measuredMbps = 30): Otherwise => ({
    location: { lineKind: '4g', sharedBy: 40, activeShare: 0.5, delayMs: undefined, ...more },
    resource: { work: 'video', content: { video: 0.2, text: 0.8 } },
    measured: { ...reached, roundTrips: trips(40), downMbps: measuredMbps },
  });

  test('in the evening 4G gives two thirds of what it does at noon, and takes longer', () => {
    const day = dayOf(small(van({ sharedBy: 1 }, 25)));
    const at = (hour: number) => day.hours[hour]!;
    // measured at nine, half as busy as the evening: 0.5 ÷ 0.75 of it is left at 20:00, all of it at ten
    expect(at(10).lineMbps).toBeCloseTo(25, 9);
    expect(at(20).lineMbps).toBeCloseTo((25 * 0.5) / 0.75, 9);
    // from twelve to four the neighbours are away, 1 − 0.1 × 0.5
    expect(at(3).lineMbps).toBeCloseTo((25 * 0.95) / 0.75, 9);
    // 30 ms and 15 ms of the neighbours, and what a narrower line takes to send
    expect(at(20).delayMs - at(10).delayMs).toBeGreaterThan(15);
  });

  test('who works from eight to six is judged by the worst hour of it, and that hour is told', () => {
    const hourOf = (more: object) => computeFigures(small(van(more))).way.hour;
    // at 17:00 the neighbours are busier, but 30 % of the people are gone: it depends on which is more
    expect([hourOf({}), hourOf({ sharedBy: 1 }), hourOf({ worksFrom: '14:00', worksTo: '23:00' })]).toEqual([9, 17, 19]);
    const fibre = computeFigures(small({ location: { lineKind: 'fibre', sharedBy: 40 } }));
    expect(fibre.way.hour).toBe(9);
  });

  test('a line of one’s own is the same all day, one that many share is empty at night', () => {
    const alone = dayOf(small({ location: { lineKind: 'fibre' } }));
    expect(alone.sameAllDay).toBe(true);
    const shared = dayOf(
      small({ location: { lineKind: 'fibre', sharedBy: 200, activeShare: 0.5 }, measured: { ...reached, downMbps: 60 } }),
    );
    const asked = [3, 8, 10, 13, 17].map((hour) => shared.hours[hour]!.othersMbps);
    // a tenth, the first hour, all, the break, the last hour
    expect(asked[2]).toBe(Math.max(...asked));
    expect(asked.map((mbps) => mbps < asked[2]!)).toEqual([true, true, false, true, true]);
    expect(asked[0]!).toBeLessThan(asked[3]!);
  });

  test('the place’s clock counts: the same measurement is of the morning here and of the evening there', () => {
    const measured = { ...reached, roundTrips: trips(40), downMbps: 30 };
    // taken at nine UTC: 18:00 in Tokyo, 0.85 as busy as the evening; at ten it then gives more
    const at = (timeZone: string) =>
      dayOf(small({ location: { lineKind: '4g', delayMs: undefined, timeZone }, measured })).hours[10]!.lineMbps!;
    expect([at('UTC'), at('Asia/Tokyo')]).toEqual([expect.closeTo(30, 9), expect.closeTo((30 * 0.75) / (1 - 0.85 * 0.5), 9)]);
    expect(dayOf(small({ location: { timeZone: 'Asia/Tokyo' }, measured })).measured).toBe(18);
  });

  test('everybody signs on in the first hour: on a narrow line that takes longer then, and the crossing is judged by it', () => {
    const at = (downMbps: number) =>
      small({
        location: { sharedBy: 101, activeShare: 0.5 },
        measured: { ...reached, downMbps },
        resource: { content: { still: 1 } },
        endpoint: { alwaysOn: true },
      });
    const { hours, worst } = dayOf(at(1));
    // 51 people within 900 s, a first picture each: alone ÷ (1 − load)
    const { firstFrameBytes } = computeFigures(at(1)).demand;
    const aloneS = (firstFrameBytes * 8) / 1e6;
    const picture = (facts: ReturnType<typeof small>) =>
      computeFigures(facts).timeline.steps.find(({ name }) => name === 'first useful picture')!;
    expect(picture({ ...at(1), hour: 8 }).seconds).toBeCloseTo(
      Math.max(aloneS / (1 - (51 * aloneS) / 900), aloneS / hours[8]!.shareMbps!) + 0.02,
      3,
    );
    expect(picture(at(1)).seconds + picture(at(1)).moreS!).toBeGreaterThanOrEqual(picture({ ...at(1), hour: 8 }).seconds);
    expect(worst).toBe(9);
    // on a wide one nobody notices
    expect(picture({ ...at(900), hour: 8 }).seconds).toBeLessThan(0.1);
  });

  test('measured at night it says less of the evening than measured in the evening', () => {
    const width = (at: string) => {
      const { way } = of({ ...van({ worksFrom: '18:00', worksTo: '23:00', sharedBy: 1, timeZone: at }) }).figures;
      return way.down!.high - way.down!.low;
    };
    // nine UTC is 21:00 in Vladivostok’s neighbour zone of +12 and 04:00 in Lima
    expect(width('Etc/GMT-12')).toBeLessThan(width('America/Lima'));
    expect(width('Etc/GMT-12')).toBe(0);
  });
});

describe('evidence of another hour', () => {
  test('measured in the morning, and the evening decides: a field check of the evening is asked for', () => {
    const ship = of({
      location: { lineKind: 'leo-satellite', delayMs: undefined, worksFrom: '06:00', worksTo: '22:00' },
      measured: { ...reached, roundTrips: trips(55), downMbps: 60, addedDownMs: 0, addedUpMs: 0 },
    });
    expect(ship.figures).toMatchObject({ verdict: 'unknown', way: { rttHour: 19 } });
    // 20 ms more in the evening, half of it at nine; up to half as much again
    expect(ship.figures.way.rtt).toMatchObject({ value: 65, low: 55, high: 70 });
    expect(ship.findings[0]?.text).toMatch(
      /^Measured at 09:00, which says less of 19:00, when more people share the way from Hall: round trips may/,
    );
    expect(ship.findings[0]?.remedies[0]?.text).toBe('Send a field check to E1, to be made about 19:00');
  });
});

describe('evidence that is old', () => {
  const at = (days: number, more: Otherwise = {}) =>
    of({ ...more, measuredAt: new Date(Date.parse('2026-11-25T09:00:00Z') - days * 86_400_000).toISOString() });
  const measured = { ...reached, roundTrips: trips(20), downMbps: 95 };

  test('a way measured last month is Clear; measured a year ago it may be otherwise, and what is to be done is said', () => {
    const mobile = { lineKind: '4g', delayMs: undefined, worksFrom: '08:00', worksTo: '17:00' };
    const fresh = at(89, { measured, location: mobile });
    expect(fresh.figures.way.rtt).toMatchObject({ value: 20, low: 20, high: 20 });
    const old = at(365, { measured, location: mobile });
    // 365 days: ten steps of 30 days, 0.315 of it is left; 4G is 40 to 70 ms and 1 ms of path
    const weight = 0.5 ** (300 / 180);
    expect(old.figures.way.rtt.high).toBeCloseTo(20 * weight + 71 * (1 - weight), 0);
    expect(old.figures.way.loss.high).toBeGreaterThan(fresh.figures.way.loss.high);
    expect([fresh.figures.verdict, old.figures.verdict]).toEqual(['clear', 'unknown']);
    expect(old.findings[0]?.text).toMatch(/^Measured 365 days ago, which weighs less: /);
    expect(old.findings[0]?.remedies[0]?.text).toBe('Send a field check to E1');
  });

  test('the day says how long ago it was measured, and what that weighs', () => {
    const ageOf = (days: number) =>
      dayOf(small({ measured, measuredAt: new Date(Date.parse('2026-11-25T09:00:00Z') - days * 86_400_000).toISOString() })).measuredAge;
    expect([ageOf(0), ageOf(89), ageOf(240), ageOf(700)]).toEqual([
      { days: 0, weight: 1 },
      { days: 89, weight: 1 },
      { days: 240, weight: 0.5 ** (180 / 180) },
      null,
    ]);
  });

  test('measured two years ago it says nothing any more: as if nobody had', () => {
    const none = of({ measured: { screens: [] } as never }).figures;
    const old = at(700, { measured }).figures;
    expect([old.verdict, old.way.lossKnown, old.way.mayBeTcp]).toEqual([none.verdict, false, true]);
    expect(old.way.loss).toEqual(none.way.loss);
  });

  test('an old rate may be off by half; what is typed since may be it', () => {
    const down = (days: number, downMbps?: number) => at(days, { measured, location: { downMbps } }).figures.way.down!;
    const weight = 0.5 ** (30 / 180);
    expect(down(90)).toMatchObject({
      value: 95,
      low: expect.closeTo(95 - 47.5 * (1 - weight), 6),
      high: expect.closeTo(95 + 47.5 * (1 - weight), 6),
    });
    expect(down(90, 1000).high).toBeCloseTo(95 * weight + 1000 * (1 - weight), 6);
    expect(down(89, 1000).high).toBe(95);
  });

  test('older is never better', () => {
    fc.assert(
      fc.property(anyCrossing, fc.integer({ min: 0, max: 800 }), fc.integer({ min: 0, max: 200 }), (any, days, more) => {
        const verdictAt = (n: number) => at(n, otherwiseOf(any)).figures.verdict;
        if (verdictAt(days) !== 'clear') expect(verdictAt(days + more)).not.toBe('clear');
      }),
      { numRuns: 150 },
    );
  });
});

test('when it was measured: the round trips, else the rate; of what is only supposed, never', () => {
  const facts = small({ location: { timeZone: 'UTC' } });
  const taken = (at: string, more: object = {}) => ({ value: trips(20), at, by: '', note: '', samples: 200, ...more });
  const of = (evidence: object) => {
    const { measured, measuredAge } = dayOf({ ...facts, evidence: { ...facts.evidence, roundTrips: undefined, ...evidence } as never });
    return [measured, measuredAge];
  };
  const rate = { ...taken('2026-11-20T15:30:00Z', { weight: 0.5 }), value: 90 };
  expect(of({})).toEqual([null, null]);
  expect(of({ roundTrips: taken('2026-11-24T09:00:00Z') })).toEqual([9, { days: 1, weight: 1 }]);
  expect(of({ downMbps: rate })).toEqual([15.5, { days: 5, weight: 0.5 }]);
  expect(of({ roundTrips: taken('2026-11-24T09:00:00Z'), downMbps: rate })).toEqual([9, { days: 1, weight: 1 }]);
  expect(of({ roundTrips: taken('') })).toEqual([null, null]);
});
