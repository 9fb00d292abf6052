import { describe, expect, test } from '@jest/globals';
import {
  binomialCdf,
  binomialPmf,
  demandP95Mbps,
  distanceKm,
  lightFloorMs,
  mathisMbps,
  medianInterval,
  pathMs,
  peopleHeld,
  percentile,
  rfc5348Mbps,
  roundTripsOf,
  shareInterval,
  smoothedRoundTrip,
  summariseRoundTrips,
  wifiRateMbps,
  wifiSignal,
  wifiUsableShare,
  windowMbps,
} from './index.js';
import { logGamma } from './binomial.js';

describe('chance at its edges', () => {
  test('the logarithm of the gamma function, by the factorials and Γ(½) = √π', () => {
    let factorial = 1;
    for (let n = 1; n < 20; n++) {
      expect(logGamma(n + 1)).toBeCloseTo(Math.log((factorial *= n)), 10);
    }
    expect(logGamma(0.5)).toBeCloseTo(Math.log(Math.sqrt(Math.PI)), 12);
    // Γ(¼) = 3.62560990822, Γ(1.5) = √π / 2
    expect(logGamma(0.25)).toBeCloseTo(Math.log(3.625609908221908), 11);
    expect(logGamma(1.5)).toBeCloseTo(Math.log(Math.sqrt(Math.PI) / 2), 12);
  });

  test('what cannot be has no chance, what must be has all of it', () => {
    expect([binomialPmf(5, -1, 0.5), binomialPmf(5, 6, 0.5)]).toEqual([0, 0]);
    expect([binomialPmf(5, 0, 0), binomialPmf(5, 1, 0), binomialPmf(5, 5, 1), binomialPmf(5, 4, 1)]).toEqual([1, 0, 1, 0]);
    expect([binomialPmf(5, 0, 0.5), binomialPmf(5, 5, 0.5)]).toEqual([expect.closeTo(1 / 32, 12), expect.closeTo(1 / 32, 12)]);
    expect([binomialCdf(5, -1, 0.5), binomialCdf(5, 5, 0.5), binomialCdf(5, 2, 0), binomialCdf(5, 2, 1)]).toEqual([0, 1, 1, 0]);
  });

  test.each([
    [3, 0.3],
    [10, 0.5],
    [40, 0.02],
    [40, 0.98],
    [100, 0.37],
  ])('of %i at %f: the sums of single chances, whichever tail is shorter', (n, p) => {
    let sum = 0;
    for (let k = 0; k < n; k++) {
      sum += binomialPmf(n, k, p);
      expect(binomialCdf(n, k, p)).toBeCloseTo(sum, 11);
    }
    expect(sum + binomialPmf(n, n, p)).toBeCloseTo(1, 11);
  });

  test('a wider level is a wider interval; the bounds hold what they promise', () => {
    const [narrow, wide] = [shareInterval(50, 5, 0.9), shareInterval(50, 5, 0.99)];
    expect(wide.low).toBeLessThan(narrow.low);
    expect(wide.high).toBeGreaterThan(narrow.high);
    // Clopper and Pearson: at the bounds the tails are half of what is left
    expect(1 - binomialCdf(50, 4, narrow.low)).toBeCloseTo(0.05, 8);
    expect(binomialCdf(50, 5, narrow.high)).toBeCloseTo(0.05, 8);
    expect(shareInterval(10, 10).low).toBeCloseTo(0.025 ** 0.1, 12);
  });
});

describe('distance and time', () => {
  test('great circles: a quarter of the meridian, half the equator, there as back, and none', () => {
    const place = (latitude: number, longitude: number) => ({ latitude, longitude });
    expect(distanceKm(place(0, 0), place(90, 0))).toBeCloseTo((Math.PI / 2) * 6371, 6);
    expect(distanceKm(place(0, -90), place(0, 90))).toBeCloseTo(Math.PI * 6371, 6);
    // along the 60th parallel a degree is half as long (to the chord’s difference)
    expect(distanceKm(place(60, 10), place(60, 11))).toBeCloseTo(55.597, 2);
    expect(distanceKm(place(10, 20), place(-30, 40))).toBeCloseTo(distanceKm(place(-30, 40), place(10, 20)), 9);
    expect(distanceKm(place(50, 7), place(50, 7))).toBe(0);
    expect([lightFloorMs(1000), pathMs(1000), pathMs(0)]).toEqual([10, 16, 1]);
  });
});

describe('summaries at their edges', () => {
  test('percentiles between two samples, of one sample, and at both ends', () => {
    expect([percentile([10, 20], 0.25), percentile([7], 0.9), percentile([1, 2, 3], 0), percentile([1, 2, 3], 1)]).toEqual([12.5, 7, 1, 3]);
  });

  test('the interval of a median: of one the sample itself, of more than 2000 by the normal limit', () => {
    expect(medianInterval([5])).toEqual({ low: 5, high: 5 });
    const many = Array.from({ length: 2001 }, (_, i) => i);
    // 1000 ± 1.96 · √2001 / 2 = ± 43.8 ranks
    const { low, high } = medianInterval(many);
    expect([low, high]).toEqual([expect.closeTo(1000 - 43.83, 1), expect.closeTo(1000 + 43.83, 1)]);
    // just at 2000 the exact form gives nearly the same
    const exact = medianInterval(many.slice(0, 2000));
    expect(Math.abs(exact.low - (999.5 - 43.8))).toBeLessThan(2);
    expect(Math.abs(exact.high - (999.5 + 43.8))).toBeLessThan(2);
    // a lower level is narrower
    expect(medianInterval([1, 2, 3, 4, 5, 6, 7, 8, 9], 0.5).high).toBeLessThan(medianInterval([1, 2, 3, 4, 5, 6, 7, 8, 9], 0.99).high);
  });

  test('nothing received says only what was sent; without that nothing of loss', () => {
    expect(summariseRoundTrips([], 4)).toMatchObject({ sent: 4, received: 0, lossPercent: 100, medianMs: null, jitterMs: null });
    expect(summariseRoundTrips([1, 2])).toMatchObject({ sent: null, lossPercent: null, received: 2, minMs: 1, maxMs: 2, medianMs: 1.5 });
    expect(summariseRoundTrips([3, 1, 2], 3)).toMatchObject({
      lossPercent: 0,
      minMs: 1,
      maxMs: 3,
      medianMs: 2,
      smoothedMs: expect.closeTo(2.65625, 9),
    });
    expect(roundTripsOf([])).toBeUndefined();
    expect(roundTripsOf([1.23456, 1.23456], 3)).toEqual({
      samples: 2,
      lost: 3,
      minMs: 1.235,
      medianMs: 1.235,
      p95Ms: 1.235,
      p99Ms: 1.235,
      maxMs: 1.235,
      jitterMs: 0,
      medianLowMs: 1.235,
      medianHighMs: 1.235,
    });
    expect(smoothedRoundTrip([])).toEqual({ smoothedMs: 0, variationMs: 0 });
  });
});

describe('rates', () => {
  test('RFC 5348 with its own worked form: s / (R√(2p/3) + 4R · 3√(3p/8) · p(1 + 32p²))', () => {
    // R = 0.2 s, p = 0.04, s = 1000 B: 0.2 · 0.16330 + 0.8 · 0.36742 · 0.04 · 1.0512 = 0.032660 + 0.012360; 1000 / 0.045020 = 22 212 B/s
    expect(rfc5348Mbps(200, 0.04, 1000)).toBeCloseTo(0.1777, 3);
    expect([rfc5348Mbps(0, 0.04), rfc5348Mbps(10, -1), mathisMbps(0, 0.1), mathisMbps(10, 0)]).toEqual([
      Infinity,
      Infinity,
      Infinity,
      Infinity,
    ]);
    expect(rfc5348Mbps(100, 2)).toBe(rfc5348Mbps(100, 1));
    // Mathis: 1000 B · 8 / 0.2 s · √(3 / 0.08) = 40 000 · 6.1237
    expect(mathisMbps(200, 0.04, 1000)).toBeCloseTo(0.24495, 5);
    expect(windowMbps(0, 65_535)).toBe(Infinity);
  });

  test('people who share: none where nobody is there, active or asks; two by hand', () => {
    const sharers = { count: 2, activeShare: 0.5, meanMbps: 4, sdMbps: 0 };
    expect([{ count: 0 }, { activeShare: 0 }, { meanMbps: 0 }].map((none) => demandP95Mbps({ ...sharers, ...none }))).toEqual([0, 0, 0]);
    // none 0.25, one 0.5, both 0.25: 95 % lies in both
    expect(demandP95Mbps(sharers)).toBeCloseTo(8, 5);
    // both at the same time 0.04: 96 % have at most one
    expect(demandP95Mbps({ ...sharers, activeShare: 0.2 })).toBeCloseTo(4, 5);
    // one alone, always there, of 4 ± 1: 4 + 1.645
    expect(demandP95Mbps({ count: 1, activeShare: 1, meanMbps: 4, sdMbps: 1 })).toBeCloseTo(4 + 1.6448536, 3);
    // thirty and more: 30 · 0.5 · 4 + 1.645 · √(30 · (0.5 · 1 + 0.25 · 16))
    expect(demandP95Mbps({ count: 30, activeShare: 0.5, meanMbps: 4, sdMbps: 1 })).toBeCloseTo(60 + 1.6448536 * Math.sqrt(30 * 4.5), 9);
  });

  test('how many a rate holds: none below the first, all where nobody asks, the same when asked again', () => {
    expect(peopleHeld(0.5, { activeShare: 1, meanMbps: 1, sdMbps: 0 })).toBe(0);
    expect(peopleHeld(5, { activeShare: 1, meanMbps: 1, sdMbps: 0 })).toBe(5);
    expect(peopleHeld(5, { activeShare: 1, meanMbps: 1, sdMbps: 0 })).toBe(5);
    expect(peopleHeld(29.5, { activeShare: 1, meanMbps: 1, sdMbps: 0 })).toBe(29);
    expect([peopleHeld(5, { activeShare: 0, meanMbps: 1, sdMbps: 0 }), peopleHeld(5, { activeShare: 1, meanMbps: 0, sdMbps: 0 })]).toEqual([
      Infinity,
      Infinity,
    ]);
  });
});

describe('Wi-Fi', () => {
  const rate = (...args: Parameters<typeof wifiRateMbps>) => {
    const result = wifiRateMbps(...args);
    return result.ok ? result.value : result.fault;
  };

  // one stream, 20 MHz, 800 ns: the rates every table of the standard begins with [IEEE 802.11-2020 table 19-27; 802.11ax table 27-55]; values from memory
  test.each([
    ['ht', [6.5, 13, 19.5, 26, 39, 52, 58.5, 65]],
    ['vht', [6.5, 13, 19.5, 26, 39, 52, 58.5, 65, 78]],
    ['he', [8.6, 17.2, 25.8, 34.4, 51.6, 68.8, 77.4, 86, 103.2, 114.7, 129, 143.4]],
  ] as const)('%s: every MCS of one stream at 20 MHz', (standard, rates) => {
    rates.forEach((mbps, mcs) => expect(rate(standard, 20, mcs, 1, 800)).toBeCloseTo(mbps, 1));
  });

  // MCS 0, one stream, 800 ns, by width
  test.each([
    ['ht', { 20: 6.5, 40: 13.5 }],
    ['vht', { 20: 6.5, 40: 13.5, 80: 29.25, 160: 58.5 }],
    ['he', { 20: 8.6, 40: 17.2, 80: 36, 160: 72.1 }],
  ] as const)('%s: every width', (standard, widths) => {
    for (const [width, mbps] of Object.entries(widths)) expect(rate(standard, Number(width), 0, 1, 800)).toBeCloseTo(mbps, 1);
  });

  test('the guard intervals of each, and streams in proportion', () => {
    expect([rate('ht', 20, 7, 1, 400), rate('vht', 80, 9, 1, 400)]).toEqual([expect.closeTo(72.2, 1), expect.closeTo(433.3, 1)]);
    expect([rate('he', 20, 0, 1, 1600), rate('he', 20, 0, 1, 3200)]).toEqual([expect.closeTo(8.1, 1), expect.closeTo(7.3, 1)]);
    expect(rate('he', 80, 11, 8, 800)).toBeCloseTo(8 * (rate('he', 80, 11, 1, 800) as number), 9);
  });

  test('what there is not is told: width, MCS, streams, guard interval, and what VHT leaves out', () => {
    expect(rate('ht', 80, 0, 1, 800)).toEqual({ place: 'width', problem: 'ht has no channel of 80 MHz', remedy: 'use one of 20, 40' });
    for (const mcs of [-1, 8, 1.5])
      expect(rate('ht', 20, mcs, 1, 800)).toEqual({ place: 'mcs', problem: `ht has no MCS ${mcs}`, remedy: 'use 0 to 7' });
    expect([rate('vht', 80, 10, 1, 800), rate('he', 80, 12, 1, 800)]).toMatchObject([{ remedy: 'use 0 to 9' }, { remedy: 'use 0 to 11' }]);
    for (const streams of [0, 5, 1.5])
      expect(rate('ht', 20, 0, streams, 800)).toEqual({ place: 'streams', problem: `ht has no ${streams} streams`, remedy: 'use 1 to 4' });
    expect(rate('he', 20, 0, 9, 800)).toMatchObject({ place: 'streams', remedy: 'use 1 to 8' });
    expect(rate('he', 20, 0, 1, 400)).toEqual({
      place: 'gi',
      problem: 'he has no guard interval of 400 ns',
      remedy: 'use one of 800, 1600, 3200',
    });
    expect(rate('vht', 20, 9, 1, 800)).toEqual({
      place: 'mcs',
      problem: 'VHT excludes MCS 9 at 20 MHz with 1 stream',
      remedy: 'use a lower MCS or another number of streams',
    });
    expect(rate('vht', 80, 6, 7, 800)).toMatchObject({ problem: 'VHT excludes MCS 6 at 80 MHz with 7 streams' });
    // [IEEE 802.11ac-2013 §22.5]: 20 MHz has MCS 9 with three and six streams only
    for (let streams = 1; streams <= 8; streams++) {
      expect(typeof rate('vht', 20, 9, streams, 800) === 'number').toBe([3, 6].includes(streams));
      expect(typeof rate('vht', 80, 6, streams, 800) === 'number').toBe(![3, 7].includes(streams));
      expect(typeof rate('vht', 80, 9, streams, 800) === 'number').toBe(streams !== 6);
      expect(typeof rate('vht', 160, 9, streams, 800) === 'number').toBe(streams !== 3);
    }
  });

  test('a signal is good, marginal, poor, in this order; about half of the rate is usable', () => {
    expect(wifiSignal.goodDbm).toBeGreaterThan(wifiSignal.marginalDbm);
    expect(wifiSignal.marginalDbm).toBeGreaterThan(wifiSignal.poorDbm);
    expect([wifiUsableShare.low, wifiUsableShare.high]).toEqual([0.5, 0.65]);
  });
});
