import { describe, expect, test } from '@jest/globals';
import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import {
  binomialCdf,
  binomialPmf,
  demandP95Mbps,
  distanceKm,
  geostationaryFloorMs,
  interarrivalJitterMs,
  lightFloorMs,
  mathisMbps,
  medianInterval,
  peopleHeld,
  percentile,
  readMeasurementFile,
  rfc5348Mbps,
  shareInterval,
  smoothedRoundTrip,
  summariseRoundTrips,
  wifiRateMbps,
  windowMbps,
} from './index.js';

const samples = [
  31.2, 29.8, 30.4, 33.9, 30.1, 29.7, 41.5, 30.0, 30.6, 29.9, 35.2, 30.3, 30.2, 88.0, 30.5, 31.0, 29.6, 30.7, 30.9, 32.4, 30.8,
];
const sorted = [...samples].sort((a, b) => a - b);

describe('round trips', () => {
  test('percentiles are those of NumPy (type 7)', () => {
    expect([0.5, 0.95, 0.99].map((share) => percentile(sorted, share))).toEqual([30.6, 41.5, expect.closeTo(78.7, 9)]);
  });

  test('jitter is that of RFC 3550 A.8, worked in Python beside it; a steady line has none', () => {
    expect(interarrivalJitterMs(samples)).toBeCloseTo(6.2864860528251105, 10);
    expect(interarrivalJitterMs([20, 20, 20])).toBe(0);
  });

  test('smoothed round trip starts as RFC 6298 §2.2 says and follows §2.3', () => {
    expect(smoothedRoundTrip([100])).toEqual({ smoothedMs: 100, variationMs: 50 });
    // RTTVAR = 3/4·50 + 1/4·|100 − 180| = 57.5, SRTT = 7/8·100 + 1/8·180 = 110
    expect(smoothedRoundTrip([100, 180])).toEqual({ smoothedMs: 110, variationMs: 57.5 });
  });

  test('the interval of the median is that of SciPy bootstrap(method="percentile", n_resamples=99999)', () => {
    expect(medianInterval(sorted)).toEqual({ low: 30.2, high: 31.0 });
    // even count: SciPy says 30.15 to 31.1 (the two middle order statistics are averaged here)
    const even = medianInterval(samples.slice(0, 20).sort((a, b) => a - b));
    expect(Math.abs(even.low - 30.15)).toBeLessThan(0.11);
    expect(Math.abs(even.high - 31.1)).toBeLessThan(0.25);
  });

  test('holds for any samples: the interval holds the median, the percentiles are in order', () => {
    fc.assert(
      fc.property(fc.array(fc.double({ min: 0.01, max: 5000, noNaN: true }), { minLength: 1, maxLength: 300 }), (values) => {
        const s = summariseRoundTrips(values, values.length + 3);
        const n = (value: number | null) => value as number;
        expect(n(s.minMs)).toBeLessThanOrEqual(n(s.medianMs));
        expect(n(s.medianMs)).toBeLessThanOrEqual(n(s.p95Ms));
        expect(n(s.p95Ms)).toBeLessThanOrEqual(n(s.p99Ms) + 1e-9);
        expect(n(s.p99Ms)).toBeLessThanOrEqual(n(s.maxMs) + 1e-9);
        expect(n(s.medianLowMs)).toBeLessThanOrEqual(n(s.medianMs) + 1e-9);
        expect(n(s.medianHighMs)).toBeGreaterThanOrEqual(n(s.medianMs) - 1e-9);
        expect(s.lossPercent).toBeCloseTo(300 / (values.length + 3), 9);
      }),
      { numRuns: 60 },
    );
  });
});

describe('chance', () => {
  test('binomial probabilities are those of SciPy binom', () => {
    expect(binomialPmf(20, 3, 0.1)).toBeCloseTo(0.19011987137619904, 12);
    expect(binomialCdf(50, 7, 0.2)).toBeCloseTo(0.19040981158219006, 12);
  });

  test.each([
    [200, 0, 0, 0.018275340355148807],
    [200, 4, 0.005475565879556446, 0.050413609089896255],
    [400, 22, 0.034785480203356985, 0.08208923736452733],
    [50, 50, 0.9288782635357954, 1],
  ])('the interval of %i tries with %i seen is that of SciPy binomtest(method="exact")', (n, k, low, high) => {
    const interval = shareInterval(n, k);
    expect(interval.low).toBeCloseTo(low, 9);
    expect(interval.high).toBeCloseTo(high, 9);
  });
});

describe('throughput', () => {
  test('the equation of RFC 5348 §3.1 and its short form [Mathis 1997] at s = 1460 B, R = 100 ms, p = 1 %', () => {
    expect(rfc5348Mbps(100, 0.01)).toBeCloseTo(1.312, 3);
    expect(mathisMbps(100, 0.01)).toBeCloseTo(1.4305, 4);
    expect(windowMbps(100, 65_535)).toBeCloseTo(5.2428, 4); // W/RTT
  });

  test('without loss the formula does not bind; more loss or delay never gives more', () => {
    expect(rfc5348Mbps(50, 0)).toBe(Infinity);
    const number = (min: number, max: number) => fc.double({ min, max, noNaN: true });
    fc.assert(
      fc.property(number(1, 900), number(0.0001, 0.4), number(1, 2), (rtt, p, factor) => {
        expect(rfc5348Mbps(rtt * factor, p)).toBeLessThanOrEqual(rfc5348Mbps(rtt, p) * (1 + 1e-12));
        expect(rfc5348Mbps(rtt, p * factor)).toBeLessThanOrEqual(rfc5348Mbps(rtt, p) * (1 + 1e-12));
      }),
    );
  });
});

describe('sharing a line', () => {
  test('the P95 below 30 people is that of exact enumeration with SciPy (binom × norm, brentq)', () => {
    expect(demandP95Mbps({ count: 10, activeShare: 0.5, meanMbps: 2, sdMbps: 1 })).toBeCloseTo(16.658932738139207, 3);
    expect(demandP95Mbps({ count: 25, activeShare: 0.7, meanMbps: 3, sdMbps: 2 })).toBeCloseTo(70.63608772447267, 3);
  });

  test('the two ways meet at 30 people, and the people held are the most that fit', () => {
    const sharers = { activeShare: 0.6, meanMbps: 2, sdMbps: 1 };
    const [below, above] = [29, 30].map((count) => demandP95Mbps({ ...sharers, count })) as [number, number];
    expect(Math.abs(above - below)).toBeLessThan(3);
    for (const rate of [7, 60, 300]) {
      const held = peopleHeld(rate, sharers);
      expect(demandP95Mbps({ ...sharers, count: held })).toBeLessThanOrEqual(rate);
      expect(demandP95Mbps({ ...sharers, count: held + 1 })).toBeGreaterThan(rate);
    }
  });
});

describe('physics', () => {
  test('a degree of the equator is 111.19 km, and light needs 15 ms for 1500 km and back', () => {
    expect(distanceKm({ latitude: 0, longitude: 0 }, { latitude: 0, longitude: 1 })).toBeCloseTo(111.195, 2);
    expect(lightFloorMs(1500)).toBe(15);
    expect(geostationaryFloorMs).toBeCloseTo(477.5, 0); // 4 × 35 786 km / c
  });
});

describe('Wi-Fi', () => {
  // rates of IEEE 802.11-2020 and 802.11ax as tshark's wlan_radio.data_rate computes them
  test.each([
    ['ht', 20, 7, 1, 400, 72.2],
    ['vht', 80, 9, 1, 400, 433.3],
    ['he', 80, 11, 1, 800, 600.5],
    ['he', 160, 11, 2, 800, 2402],
    ['ht', 40, 7, 2, 800, 270],
    ['he', 20, 0, 1, 3200, 7.3],
  ] as const)('%s %i MHz MCS %i × %i at %i ns is %f Mbit/s', (standard, width, mcs, streams, gi, mbps) => {
    const result = wifiRateMbps(standard, width, mcs, streams, gi);
    expect(result).toEqual({ ok: true, value: expect.closeTo(mbps, 1) });
  });

  test.each([
    ['vht', 20, 9, 1, 400],
    ['ht', 80, 7, 1, 400],
    ['he', 80, 12, 1, 800],
    ['vht', 80, 6, 3, 400],
    ['he', 80, 11, 1, 400],
  ] as const)('%s %i MHz MCS %i × %i at %i ns is excluded', (standard, width, mcs, streams, gi) => {
    expect(wifiRateMbps(standard, width, mcs, streams, gi).ok).toBe(false);
  });
});

describe('measurement files', () => {
  const read = (name: string) => {
    const result = readMeasurementFile(readFileSync(new URL(`./fixtures/${name}`, import.meta.url), 'utf8'));
    if (!result.ok) throw new Error(result.fault.problem);
    return result.value;
  };

  test('ping and fping: recorded output of the Debian programs, and their own closing line', () => {
    const ping = read('ping.txt');
    expect(ping).toMatchObject({ kind: 'ping', summary: { sent: 6, received: 6, lossPercent: 0, minMs: 0.031, maxMs: 0.066 } });
    expect(read('fping.txt')).toMatchObject({ kind: 'fping', roundTripsMs: [0.032, 0.045, 0.045, 0.044, 0.044] });
    // fping 5.1 -D -c 5
    expect(read('fping-timestamps.txt')).toMatchObject({
      kind: 'fping',
      roundTripsMs: [0.049, 0.041, 0.04, 0.041, 0.04],
      summary: { sent: 5, received: 5, minMs: 0.04, maxMs: 0.049 },
    });
    const lossy = readMeasurementFile('gw : 12.1 - 11.9 - 12.4\n');
    expect(lossy).toMatchObject({ ok: true, value: { summary: { sent: 5, received: 3, lossPercent: 40, medianMs: 12.1 } } });
  });

  test('iperf3 -J: the received rate, the direction, and the loss of a UDP run, as the program itself sums them', () => {
    const raw = (name: string) =>
      JSON.parse(readFileSync(new URL(`./fixtures/${name}`, import.meta.url), 'utf8')) as { end: Record<string, Record<string, number>> };
    const up = read('iperf3-up.json').summary;
    expect(up.upMbps).toBeCloseTo((raw('iperf3-up.json').end.sum_received?.bits_per_second ?? 0) / 1e6, 6);
    expect(up.downMbps).toBeNull();
    const udp = read('iperf3-udp-down.json').summary;
    expect(udp.downMbps).toBeGreaterThan(4);
    expect(udp.upMbps).toBeNull();
    expect(udp.lossPercent).toBeCloseTo(raw('iperf3-udp-down.json').end.sum?.lost_percent ?? -1, 3);
  });

  test('CSV of round trips: named column, lost probes, and what a wrong row is told', () => {
    expect(readMeasurementFile('n,rttMs\n1,10.5\n2,-\n3,11.5\n')).toMatchObject({
      ok: true,
      value: { kind: 'round trips', summary: { sent: 3, received: 2, medianMs: 11 } },
    });
    expect(readMeasurementFile('rttMs\n10\nfast\n')).toMatchObject({ ok: false, fault: { place: 'line 3' } });
    expect(readMeasurementFile('hello world')).toMatchObject({ ok: false });
    expect(readMeasurementFile('{"start": {}')).toMatchObject({ ok: false });
    expect(readMeasurementFile('{"error": "unable to connect"}')).toMatchObject({
      ok: false,
      fault: { problem: expect.stringContaining('unable to connect') },
    });
  });

  test('no text makes it throw', () => {
    fc.assert(fc.property(fc.string({ maxLength: 400 }), (text) => void readMeasurementFile(text)));
  });
});
