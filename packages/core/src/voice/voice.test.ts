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
    expect(voiceQuality(50, 0).r).toBeCloseTo(93.2, 9);
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
