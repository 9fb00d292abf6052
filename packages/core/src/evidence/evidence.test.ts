import { describe, expect, test } from '@jest/globals';
import type { Figures, Location, Measurement } from '@underpass/contracts';
import { chooseEvidence, rejection } from './index.js';

const hall: Location = {
  id: 'hall',
  name: 'Hall',
  kind: 'ticket-hall',
  latitude: 55,
  longitude: 3,
  timeZone: 'UTC',
  lineKind: 'fibre',
  metered: false,
  ownLines: false,
  inside: false,
};
const farEnd = { latitude: 55, longitude: 3.1 };
const trips = (medianMs: number) => ({
  samples: 100,
  lost: 0,
  minMs: medianMs,
  medianMs,
  p95Ms: medianMs + 2,
  medianLowMs: medianMs,
  medianHighMs: medianMs,
});
let n = 0;
const measured = (day: number, figures: Figures, more: Partial<Measurement> = {}): Measurement => ({
  id: `m${n++}`,
  at: `2026-11-${String(day).padStart(2, '0')}T08:00:00Z`,
  by: 'field check',
  method: 'field check',
  vantage: 'desk',
  location: 'hall',
  partial: false,
  figures,
  ...more,
});

describe('which measurement counts', () => {
  test('the newest of each fact, so that a partial check renews only what it has', () => {
    const evidence = chooseEvidence(
      [measured(1, { downMbps: 100, upMbps: 20 }), measured(3, { downMbps: 80 })],
      hall,
      { id: 'e1' },
      farEnd,
    );
    expect([evidence.downMbps?.value, evidence.upMbps?.value]).toEqual([80, 20]);
  });

  test('the endpoint’s own comes before a newer one of a neighbour; a neighbour’s device says nothing of this one', () => {
    const list = [
      measured(1, { roundTrips: trips(20) }, { endpoint: 'e1' }),
      measured(5, { roundTrips: trips(90), screens: [{ widthPx: 800, heightPx: 600, scale: 1 }] }, { endpoint: 'e2' }),
    ];
    const evidence = chooseEvidence(list, hall, { id: 'e1' }, farEnd);
    expect(evidence.roundTrips?.value.medianMs).toBe(20);
    expect(evidence.screens).toBeUndefined();
    expect(chooseEvidence(list, hall, { id: 'e3' }, farEnd).roundTrips?.value.medianMs).toBe(90);
    // at home everybody has a line of their own
    expect(chooseEvidence(list, { ...hall, ownLines: true }, { id: 'e3' }, farEnd).roundTrips).toBeUndefined();
  });

  test('what was sent again is said of the round trips of a field check alone', () => {
    const of = (method: Measurement['method']) =>
      chooseEvidence([measured(1, { roundTrips: trips(20), downMbps: 80 }, { method })], hall, { id: 'e1' }, farEnd);
    expect(of('field check').roundTrips).toMatchObject({ sentAgain: true });
    expect(of('field check').downMbps).not.toHaveProperty('sentAgain');
    expect(of('ping').roundTrips).not.toHaveProperty('sentAgain');
  });

  test('how old the oldest of the line is, by the day; a device’s own is no part of it', () => {
    const of = (...list: Measurement[]) => chooseEvidence(list, hall, { id: 'e1' }, farEnd).oldest;
    // days since 1970: 2026-11-01 is the 20 758th
    expect(of(measured(1, { downMbps: 100 }), measured(3, { upMbps: 20 }))).toEqual({ at: '2026-11-01T08:00:00Z', day: 20_758 });
    expect(of(measured(1, { upMbps: 20 }), measured(3, { downMbps: 100 }))).toMatchObject({ at: '2026-11-01T08:00:00Z' });
    // what was measured anew is as old as it is now
    expect(of(measured(1, { downMbps: 100 }), measured(3, { downMbps: 80 }))).toMatchObject({ at: '2026-11-03T08:00:00Z' });
    expect(of(measured(1, { screens: [{ widthPx: 800, heightPx: 600, scale: 1 }] }, { endpoint: 'e1' }))).toBeUndefined();
    expect(of()).toBeUndefined();
  });

  test('what was rejected is told while nothing newer stands in its place', () => {
    const wrong = (day: number) => measured(day, { roundTrips: trips(1) }, { vantage: 'host', endpoint: 'e1' });
    const of = (...list: Measurement[]) =>
      chooseEvidence(list, hall, { id: 'e1' }, farEnd).rejected.map(({ measurement }) => measurement.at.slice(8, 10));
    const right = (day: number) => measured(day, { roundTrips: trips(20) }, { endpoint: 'e1' });
    expect([of(wrong(2)), of(wrong(2), right(3)), of(right(1), wrong(2)), of(wrong(2), right(2))]).toEqual([['02'], [], ['02'], []]);
    expect(of(wrong(2), measured(3, { downMbps: 80 }))).toEqual(['02']);
    // another’s is not told here
    expect(of(measured(2, { roundTrips: trips(1) }, { vantage: 'host', endpoint: 'e2' }))).toEqual([]);
    expect(of(measured(2, { roundTrips: trips(1) }, { vantage: 'host' }))).toEqual(['02']);
  });

  test('only hardware that a browser proves is a decoder', () => {
    const decodes = [
      { codec: 'h264' as const, mode: '2160p30' as const, supported: true, smooth: true, hardware: true },
      { codec: 'av1' as const, mode: '1080p30' as const, supported: true, smooth: true, hardware: false },
    ];
    expect(chooseEvidence([measured(1, { decodes }, { endpoint: 'e1' })], hall, { id: 'e1' }, farEnd).decoders?.value).toEqual([
      { codec: 'h264', level: '5.1', chroma444: false },
    ]);
  });

  test('a wrong vantage and what is faster than light are rejected, each with its reason', () => {
    for (const vantage of ['host', 'session', 'not the desk'] as const)
      expect(rejection(measured(1, { roundTrips: trips(20) }, { vantage }), hall, farEnd)).toBe('not taken at the desk');
    // 1000 km and back take light 10 ms in fibre
    const away = { latitude: 46, longitude: 3 };
    expect(rejection(measured(1, { roundTrips: trips(4) }), hall, away)).toBe('below what light allows');
    expect(rejection(measured(1, { roundTrips: trips(14) }), hall, away)).toBeNull();
    expect(rejection(measured(1, { roundTrips: trips(300) }), { ...hall, lineKind: 'geo-satellite' }, farEnd)).toBe(
      'below what light allows',
    );
  });

  test('a rejected one is told only while nothing newer is valid', () => {
    const wrong = measured(2, { roundTrips: trips(1) }, { vantage: 'host' });
    expect(chooseEvidence([wrong], hall, { id: 'e1' }, farEnd).rejected).toHaveLength(1);
    expect(chooseEvidence([wrong, measured(4, { roundTrips: trips(20) })], hall, { id: 'e1' }, farEnd).rejected).toHaveLength(0);
  });
});
