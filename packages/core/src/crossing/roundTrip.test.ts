import { describe, expect, test } from '@jest/globals';
import type { RoundTrips } from '@underpass/contracts';
import { degrees, small, taken, trips, type Otherwise } from '../../test/small.js';
import type { Taken } from '../evidence/index.js';
import { roundTripOf, unsteadinessOf } from './roundTrip.js';

const ofTrips = (value: RoundTrips, more: Partial<Taken<RoundTrips>> = {}) =>
  taken(value, { samples: value.samples, medium: undefined, ...more });
const noon = 12;
const rtt = (roundTrips: Taken<RoundTrips> | undefined, otherwise: Otherwise = {}, hour = noon) => {
  const facts = small(otherwise);
  const { rtt: found, known } = roundTripOf({ ...facts, evidence: { ...facts.evidence, roundTrips } as never }, hour);
  const { value, low, high, source } = found;
  return { value, low, high, source, known };
};
const typed = (delayMs: number | undefined, more: object = {}) => ({ location: { delayMs, ...more } });
const around = trips(40, { minMs: 35, p95Ms: 60, medianLowMs: 38, medianHighMs: 43 });

describe('the round trip to the gateway', () => {
  test('measured there: its median with its interval; what is typed is shown beside it', () => {
    expect(rtt(ofTrips(around))).toEqual({ value: 40, low: 38, high: 43, source: 'measured', known: true });
    const facts = small(typed(20));
    const of = (delayMs?: number) =>
      roundTripOf({ ...small(typed(delayMs)), evidence: { ...facts.evidence, roundTrips: ofTrips(around) } } as never, noon).rtt.notUsed;
    expect([of(20), of()]).toEqual([{ value: 20, source: 'declared', note: 'typed for the line' }, undefined]);
  });

  test('typed: it stands, by day and by night, but for a line of the neighbourhood, where the evening adds', () => {
    expect(rtt(undefined, typed(20))).toEqual({ value: 20, low: 20, high: 20, source: 'declared', known: true });
    expect(rtt(undefined, typed(20), 20).high).toBe(20);
    // 4G: 30 ms more of an evening, or half as much again
    const mobile = typed(60, { lineKind: '4g' });
    expect(rtt(undefined, mobile, 20)).toMatchObject({ value: 60, low: 60, high: 60 + 45, known: true });
    expect(rtt(undefined, mobile, 3).high).toBeCloseTo(60 + 4.5, 9);
  });

  test('a geostationary one that is faster than light was not typed for it', () => {
    const geo = (delayMs: number) => rtt(undefined, typed(delayMs, { lineKind: 'geo-satellite' }));
    // up and down twice over 35 786 km [ITU-R S.1806]: 477 ms
    expect(geo(600)).toMatchObject({ value: 600, source: 'declared', known: true });
    expect(geo(400)).toMatchObject({ value: 600, low: 550, high: 650, source: 'assumed', known: false });
    expect(rtt(undefined, typed(4)).value).toBe(4);
  });

  test('neither: by the kind of line and the distance, which a satellite’s is in already', () => {
    const far = (lineKind: string) => rtt(undefined, typed(undefined, { lineKind, latitude: 55 - degrees(1000) }));
    // 1.5 · 10 + 1 = 16
    expect(far('fibre')).toEqual({
      value: expect.closeTo(26, 9),
      low: expect.closeTo(21, 9),
      high: expect.closeTo(31, 9),
      source: 'assumed',
      known: false,
    });
    expect(far('geo-satellite')).toMatchObject({ value: 600, low: 550, high: 650 });
  });

  test('a few of them say that it may be like this, and not that it is not as usual or as typed', () => {
    const few = { samples: 19 };
    const by = (value: RoundTrips, delayMs: number | undefined) => rtt(ofTrips({ ...value, samples: 19 }), typed(delayMs));
    // as usual: 5 + 1 to 15 + 1, in the middle 11
    expect(by(around, undefined)).toEqual({ value: 40, low: 6, high: 60, source: 'measured', known: false });
    expect(by(around, 80)).toMatchObject({ value: 40, low: 6, high: 80 });
    expect(by(around, 2)).toMatchObject({ low: 2, high: 60 });
    expect(by(trips(3, { minMs: 2, p95Ms: 4, ...few }), undefined)).toMatchObject({ value: 3, low: 2, high: 16 });
    expect(by(trips(3, { minMs: 2, p95Ms: 4, medianHighMs: 30, ...few }), undefined).high).toBe(30);
    expect(rtt(ofTrips({ ...around, samples: 20 })).known).toBe(true);
  });

  test('what is old goes towards what is usual', () => {
    expect(rtt(ofTrips(around, { weight: 0.5 }))).toMatchObject({ value: 40, low: (38 + 6) / 2, high: 43, known: true });
    expect(rtt(ofTrips(trips(10, { medianLowMs: 9, medianHighMs: 11 }), { weight: 0.25 }))).toMatchObject({
      low: 0.25 * 9 + 0.75 * 6,
      high: 0.25 * 11 + 0.75 * 16,
    });
  });
});

describe('measured to somewhere else', () => {
  const away = { more: { region: [{ id: 'away', name: 'Away', latitude: 55 - degrees(1000), longitude: 3 }] } };
  // the gateway here: 1 ms of way; the other region 1000 km off: 16 ms, 15 less
  test('to a region farther off: by what the distances differ, give or take a third, and not faster than light', () => {
    expect(rtt(ofTrips(around, { target: 'away' }), away)).toEqual({
      value: expect.closeTo(25, 9),
      low: expect.closeTo(38 - 20, 9),
      high: expect.closeTo(43 - 10, 9),
      source: 'computed',
      known: true,
    });
    const near = trips(12, { medianLowMs: 11, medianHighMs: 13 });
    // light needs nothing to where one is
    expect(rtt(ofTrips(near, { target: 'away' }), away)).toMatchObject({ value: 0, low: 0, high: expect.closeTo(3, 9) });
  });
  test('to a region nearer by', () => {
    const far = {
      ...away,
      region: { latitude: 55 - degrees(2000) },
      more: { region: [{ id: 'away', name: 'Away', latitude: 55, longitude: 3 }] },
    };
    // 1.5 · 20 + 1 = 31 ms, 30 more
    expect(rtt(ofTrips(around, { target: 'away' }), far)).toMatchObject({
      value: expect.closeTo(70, 6),
      low: expect.closeTo(58, 6),
      high: expect.closeTo(83, 6),
    });
  });
  test('where to is not told, or to a region that is gone: here, or next door to where it was taken', () => {
    for (const target of [undefined, 'gone']) {
      expect(rtt(ofTrips(around, { target }))).toMatchObject({ value: 40, low: 38, high: 43, source: 'measured' });
      expect(rtt(ofTrips(around, { target }), { location: { latitude: 55 - degrees(1000) } })).toMatchObject({
        low: 38,
        high: expect.closeTo(58, 9),
      });
    }
  });
});

describe('how steady the way is', () => {
  const unsteady = (roundTrips: Taken<RoundTrips> | undefined, connection: string | undefined, lineKind = 'fibre') => {
    const facts = small({ endpoint: { connection }, location: { lineKind } });
    const { localMs, spreadMs } = unsteadinessOf({ ...facts, evidence: { roundTrips } } as never);
    return [localMs, spreadMs].map(({ value, low, high, source }) => [value, low, high, source]);
  };
  const wifi = [8, 3, 20, 'assumed'];
  const wired = [0.5, 0.5, 0.5, 'assumed'];
  const either = [1, 0.5, 20, 'assumed'];
  test('not measured: by the cable or Wi-Fi, and what the kind of line does not rule out', () => {
    expect(unsteady(undefined, 'wifi')).toEqual([wifi, [0, 0, 5, 'assumed']]);
    expect(unsteady(undefined, 'wired', '4g')).toEqual([wired, [0, 0, 50, 'assumed']]);
    expect(unsteady(undefined, undefined)).toEqual([either, [0, 0, 5, 'assumed']]);
    // of one alone nothing is known of how far it varies
    expect(unsteady(ofTrips(trips(40, { samples: 1 })), 'wired')).toEqual([wired, [0, 0, 5, 'assumed']]);
  });
  test('measured: the worst twentieth above the median, of the line on a cable and of the Wi-Fi on it', () => {
    expect(unsteady(ofTrips(around), 'wired')).toEqual([wired, [20, 20, 20, 'measured']]);
    expect(unsteady(ofTrips(around), undefined)).toEqual([either, [20, 20, 20, 'measured']]);
    expect(unsteady(ofTrips(around), 'wifi')).toEqual([
      [20, 20, 20, 'measured'],
      [0, 0, 0, 'measured'],
    ]);
    // counted otherwise, the worst twentieth may come out below the median: that is none
    expect(unsteady(ofTrips(trips(40, { p95Ms: 39 })), 'wired')[1]).toEqual([0, 0, 0, 'measured']);
  });
  test('a few prove little: from nothing to what is not ruled out', () => {
    const few = (p95Ms: number, samples: number) => ofTrips(trips(40, { samples, p95Ms }));
    expect(unsteady(few(42, 19), 'wired')[1]).toEqual([2, 0, 5, 'measured']);
    expect(unsteady(few(60, 19), 'wired')[1]).toEqual([20, 0, 20, 'measured']);
    expect(unsteady(few(60, 20), 'wired')[1]).toEqual([20, 20, 20, 'measured']);
    expect(unsteady(few(42, 19), 'wifi')[0]).toEqual([2, 2, 20, 'measured']);
    expect(unsteady(few(45, 19), 'wifi')[0]).toEqual([5, 3, 20, 'measured']);
    expect(unsteady(few(70, 19), 'wifi')[0]).toEqual([30, 3, 30, 'measured']);
    expect(unsteady(few(70, 20), 'wifi')[0]).toEqual([30, 30, 30, 'measured']);
    expect(unsteady(few(60, 2), 'wired')[1]).toEqual([20, 0, 20, 'measured']);
  });
  test('what is old goes towards what is not ruled out', () => {
    expect(unsteady(ofTrips(around, { weight: 0.5 }), 'wired')[1]).toEqual([20, 10, 20, 'measured']);
    expect(unsteady(ofTrips(trips(40, { p95Ms: 42 }), { weight: 0.5 }), 'wired', '4g')[1]).toEqual([2, 1, 26, 'measured']);
    expect(unsteady(ofTrips(trips(40, { p95Ms: 42 }), { weight: 0.5 }), 'wifi')[0]).toEqual([2, 2, 11, 'measured']);
  });
  test('by somebody else’s device: its Wi-Fi says nothing of a cable, its cable nothing of the Wi-Fi', () => {
    const others = (medium: 'wired' | 'wifi' | undefined, own = false) => ofTrips(around, { own, medium });
    expect(unsteady(others('wifi'), 'wired')).toEqual([wired, [0, 0, 20, 'measured']]);
    expect(unsteady(others('wired'), 'wired')).toEqual([wired, [20, 20, 20, 'measured']]);
    expect(unsteady(others(undefined), 'wired')).toEqual([wired, [20, 20, 20, 'measured']]);
    expect(unsteady(others('wifi', true), 'wired')).toEqual([wired, [20, 20, 20, 'measured']]);
    expect(unsteady(others('wired'), 'wifi')).toEqual([wifi, [20, 20, 20, 'measured']]);
    expect(unsteady(others('wired', true), 'wifi')).toEqual([
      [20, 20, 20, 'measured'],
      [0, 0, 0, 'measured'],
    ]);
    expect(unsteady(others(undefined), 'wifi')[0]).toEqual([20, 20, 20, 'measured']);
  });
});
