import { describe, expect, test } from '@jest/globals';
import { callMbps, delayImpairment, lossImpairment, mosOfRating, voiceOnEndpoint, voiceQuality, voiceThroughHost } from './index.js';

describe('E-model', () => {
  test('MOS of R as ITU-T G.107 Annex B lists it', () => {
    const table = { 93.2: 4.41, 90: 4.34, 80: 4.03, 70: 3.6, 60: 3.1, 50: 2.58 };
    // the recommendation prints 4.03 for R = 80 where its own formula gives 4.024
    for (const [r, mos] of Object.entries(table)) expect(Math.abs(mosOfRating(Number(r)) - mos)).toBeLessThan(0.0065);
    expect([mosOfRating(-5), mosOfRating(120)]).toEqual([1, 4.5]);
  });

  test('Idd of G.107 §7.4 at the handbook’s delays', () => {
    const table = { 100: 0, 150: 0.2, 200: 3.0, 250: 8.9, 300: 14.8, 400: 24.1 };
    for (const [delay, idd] of Object.entries(table)) expect(delayImpairment(Number(delay))).toBeCloseTo(idd, 1);
  });

  test('Ie,eff with the codec figures of G.113 Appendix I', () => {
    expect(lossImpairment('g711', 0)).toBe(0);
    expect(lossImpairment('g729a', 0)).toBe(11);
    // Ie + (95 − Ie)·Ppl/(Ppl + Bpl), by hand
    expect(lossImpairment('g711', 2)).toBeCloseTo((95 * 2) / 6.3, 9);
    expect(lossImpairment('g711-plc', 2)).toBeCloseTo((95 * 2) / 27.1, 9);
    expect(lossImpairment('g711-plc', 2, 2)).toBeGreaterThan(lossImpairment('g711-plc', 2));
    // a codec with an impairment of its own: 11 + 84 · 2/21
    expect(lossImpairment('g729a', 2)).toBeCloseTo(19, 9);
    // what cannot be lost is none
    expect(lossImpairment('g729a', -1)).toBe(11);
    expect(voiceQuality(50, 0).r).toBeCloseTo(93.2, 9);
    // the advantage of access A is added [G.107 §7.6]
    expect(voiceQuality(50, 0, 'g729a', 1, 10).r).toBeCloseTo(93.2 - 11 + 10, 9);
  });

  test('a call through the host is never better than one on the endpoint, and costs 80 kbit/s at the IP layer', () => {
    for (const rttMs of [5, 60, 300])
      for (const lossPercent of [0, 1, 5]) {
        const path = { rttMs, jitterMs: 3, lossPercent, transport: 'udp' } as const;
        expect(voiceThroughHost(path).mos).toBeLessThanOrEqual(voiceOnEndpoint(path).mos);
      }
    expect(callMbps).toBeCloseTo(0.08, 9);
  });
});

describe('the ways a call is carried, by hand', () => {
  const of = (delayMs: number, lossPercent: number) => voiceQuality(delayMs, lossPercent, 'g711-plc');

  test('on the endpoint: half a round trip, one buffer, 30 ms of packet, 20 ms onward', () => {
    // a steady line has the shortest buffer, 20 ms: 50 + 20 + 30 + 20
    expect(voiceOnEndpoint({ rttMs: 100, jitterMs: 5, lossPercent: 0, transport: 'udp' })).toEqual(of(120, 0));
    // twice a jitter of 30 ms: 50 + 60 + 30 + 20
    expect(voiceOnEndpoint({ rttMs: 100, jitterMs: 30, lossPercent: 2, transport: 'udp' })).toMatchObject({
      idd: delayImpairment(160),
      ieEff: expect.closeTo((95 * 2) / (2 + 25.1), 9) as unknown,
    });
  });

  test('through the host: half of the session’s round trip, its buffer, the host’s 40 ms, on to the service; the loss of that leg once', () => {
    // 50 + 40 + 40 + 30 + 20 + 20
    expect(voiceThroughHost({ rttMs: 100, jitterMs: 5, lossPercent: 0, transport: 'udp' })).toEqual(of(200, 0));
    // twice a jitter of 30 ms is more than the session’s own 40
    const lossy = voiceThroughHost({ rttMs: 100, jitterMs: 30, lossPercent: 2, transport: 'udp' });
    expect(lossy.idd).toBeCloseTo(delayImpairment(220), 9);
    expect(lossy.ieEff).toBeCloseTo((95 * 2) / (2 + 25.1), 9);
  });

  test('over TCP nothing is lost for good; it comes late, by up to a round trip', () => {
    const over = (lossPercent: number) => voiceThroughHost({ rttMs: 100, jitterMs: 5, lossPercent, transport: 'tcp' });
    expect(over(0)).toEqual(of(200, 0));
    expect(over(1)).toEqual(of(250, 0));
    expect(over(2)).toEqual(of(300, 0));
    expect(over(10)).toEqual(of(300, 0));
  });

  test('one in twenty that comes later than any buffer waits is lost to the ear: none at 60 ms, 5 % at 120', () => {
    const lost = (spreadMs: number) => voiceOnEndpoint({ rttMs: 40, jitterMs: 5, spreadMs, lossPercent: 0, transport: 'udp' }).ieEff;
    const ieOf = (percent: number) => (95 * percent) / (percent + 25.1);
    expect([lost(0), lost(60)]).toEqual([0, 0]);
    expect(lost(90)).toBeCloseTo(ieOf(2.5), 9);
    expect([lost(120), lost(500)]).toEqual([expect.closeTo(ieOf(5), 9), expect.closeTo(ieOf(5), 9)]);
  });
});
