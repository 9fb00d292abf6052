import { describe, expect, test } from '@jest/globals';
import { small, type Otherwise } from '../../test/small.js';
import type { Taken } from '../evidence/index.js';
import { demandP95Mbps, wifiRateAt } from '../link/index.js';
import { between, exact, type Estimate } from '../units/index.js';
import type { OtherDemand } from './facts.js';
import { lineRate, othersP95, peopleAtOnce, shareOf, usableMbps, wifiShare } from './rate.js';

const taken = (value: number, more: Partial<Taken<number>> = {}): Taken<number> => ({
  value,
  at: '2026-11-25T12:00:00Z',
  by: 'x',
  note: 'x, today',
  samples: 1,
  ...more,
});
const span = ({ value, low, high, source }: Estimate) => ({ value, low, high, source });

describe('the rate of a line', () => {
  const rate = (measured: Taken<number> | undefined, declared: number | undefined, lineKind = 'fibre', hour = 12) => {
    const found = lineRate(measured, declared, small({ location: { lineKind, timeZone: 'UTC' } }), hour);
    return found && span(found);
  };
  test('measured, else typed, else not known', () => {
    expect(rate(taken(80), 100)).toEqual({ value: 80, low: 80, high: 80, source: 'measured' });
    expect(rate(undefined, 100)).toEqual({ value: 100, low: 100, high: 100, source: 'declared' });
    expect(rate(undefined, undefined)).toBeNull();
    const beside = (declared?: number) => lineRate(taken(80), declared, small(), 12)?.notUsed;
    expect([beside(100), beside()]).toEqual([{ value: 100, source: 'declared', note: 'typed for the line' }, undefined]);
  });
  test('measured long ago it may be off by as much as half, and by what is typed where that is farther off', () => {
    expect(rate(taken(80, { weight: 0.5 }), undefined)).toMatchObject({ value: 80, low: 60, high: 100 });
    expect(rate(taken(80, { weight: 0.5 }), 200)).toMatchObject({ value: 80, low: 60, high: 140 });
    expect(rate(taken(80, { weight: 0.5 }), 10)).toMatchObject({ value: 80, low: 45, high: 100 });
    expect(rate(taken(80, { weight: 0 }), 90)).toMatchObject({ low: 40, high: 120 });
    expect(rate(taken(80, { weight: 1 }), 200)).toMatchObject({ low: 80, high: 80 });
  });
  test('of a line of the neighbourhood by the hour: typed is what it gives when nobody else is there', () => {
    // 4G: half of it in the evening, give or take a half of what is missing
    expect(rate(undefined, 60, '4g', 20)).toEqual({ value: 30, low: expect.closeTo(15, 9), high: 45, source: 'declared' });
    // measured at noon, when half as many are there: 60 · 0.5 / 0.75
    expect(rate(taken(60), undefined, '4g', 20)?.value).toBeCloseTo(40, 9);
    expect(rate(taken(60), undefined, '4g', 12)).toMatchObject({ value: 60, low: 60, high: 60 });
  });
  test('framing goes off what is typed, and is off what is measured already', () => {
    expect(usableMbps({ value: 100, source: 'declared' }, 0.05)).toBe(95);
    expect(usableMbps({ value: 100, source: 'measured' }, 0.05)).toBe(100);
    expect(usableMbps({ value: 100, source: 'computed' }, 0.1)).toBe(90);
  });
});

const others = (more: Partial<OtherDemand> = {}): OtherDemand => ({
  ...{ count: 10, activeShare: 0.5, activeLow: 0.5, activeHigh: 0.5, meanMbps: 2, sdMbps: 1, upMeanMbps: 0.2, upSdMbps: 0.1 },
  ...more,
});

describe('what the others ask in their busiest second of twenty', () => {
  const p95 = (count: number, activeShare: number, meanMbps: number, sdMbps: number) =>
    demandP95Mbps({ count, activeShare, meanMbps, sdMbps });
  // link.test.ts holds the demand itself
  test.each([1, 10, 29, 30, 200])('of %d, each way', (count) => {
    const { down, up } = othersP95(others({ count }), 100);
    expect([down.value / p95(count, 0.5, 2, 1), up.value / p95(count, 0.5, 0.2, 0.1)]).toEqual([
      expect.closeTo(1, 5),
      expect.closeTo(1, 5),
    ]);
    expect([down.low, down.high]).toEqual([down.value, down.value]);
  });
  test('at the ends of how many are active, where that is not told', () => {
    const { down } = othersP95(others({ activeLow: 0.4, activeHigh: 0.8 }), 100);
    expect([down.low / p95(10, 0.4, 2, 1), down.value / p95(10, 0.5, 2, 1), down.high / p95(10, 0.8, 2, 1)]).toEqual(
      [1, 1, 1].map((one) => expect.closeTo(one, 5)),
    );
  });
  test('none, or that ask nothing, ask nothing; a session takes no more than it may, and then steadily', () => {
    expect(othersP95(others({ count: 0 }), 100).down.value).toBe(0);
    expect(othersP95(others({ meanMbps: 0, sdMbps: 0 }), 100).down.value).toBe(0);
    const capped = othersP95(others(), 1.5);
    expect([capped.down.value / p95(10, 0.5, 1.5, 0), capped.capMbps]).toEqual([expect.closeTo(1, 5), 1.5]);
    expect(othersP95(others(), 2).down.value).toBeCloseTo(p95(10, 0.5, 2, 1), 4);
  });
  test('the same ones under another cap ask something else, and are remembered for the last', () => {
    const same = others();
    const wide = othersP95(same, 100);
    expect(othersP95(same, 100)).toBe(wide);
    expect(othersP95(same, 1).down.value).toBeLessThan(wide.down.value);
    expect(othersP95(same, 100)).toEqual(wide);
  });
});

describe('one session’s part of a shared line', () => {
  test('people at once: the mean and 1.645 deviations, rounded up, and the person; never more than there are', () => {
    // 10 · 0.5 + 1.645 · √2.5 = 7.6; 2 · 0.5 + 1.645 · √0.5 = 2.2; 400 · 0.1 + 1.645 · 6 = 49.87
    expect([peopleAtOnce(10, 0.5), peopleAtOnce(2, 0.5), peopleAtOnce(400, 0.1), peopleAtOnce(10, 0)]).toEqual([9, 3, 51, 1]);
  });
  const part = (rate: Estimate, of: OtherDemand, p95s: { value: number; low: number; high: number }) => {
    const { available, people, othersLoad } = shareOf(rate, 0.05, of, 2, p95s);
    return { ...span(available), people, othersLoad };
  };
  const ten = { value: 10, low: 10, high: 10 };
  test('alone all of it, less framing, with its interval', () => {
    expect(part(exact(100, 'declared', ''), others({ count: 0 }), ten)).toEqual({
      ...{ value: 95, low: 95, high: 95, source: 'declared' },
      ...{ people: 1, othersLoad: 0 },
    });
    expect(part(between(100, 60, 120, 'measured', ''), others({ count: 0 }), ten)).toMatchObject({ value: 100, low: 60, high: 120 });
  });
  test('what the others leave, and never less than an equal share', () => {
    expect(part(exact(100, 'declared', ''), others(), ten)).toEqual({
      ...{ value: 85, low: 85, high: 85, source: 'declared' },
      ...{ people: 9, othersLoad: 10 / 95 },
    });
    expect(part(exact(100, 'measured', ''), others(), { value: 98, low: 98, high: 98 })).toMatchObject({ value: 100 / 9, people: 9 });
  });
  test('its ends: as many active as may be on the least it may give, and the other way round', () => {
    const of = others({ activeLow: 0.4, activeHigh: 0.8 });
    const p95s = { value: 20, low: 15, high: 30 };
    // sure of the rate: 100 − 30 and 100 − 15
    expect(part(exact(100, 'measured', ''), of, p95s)).toMatchObject({ value: 80, low: 70, high: 85 });
    expect(part(between(100, 50, 140, 'measured', ''), of, p95s)).toMatchObject({ value: 80, low: 20, high: 125 });
    // 0.4 · 10 + 1.645 · √2.4 = 6.5: 8 people; 0.8 · 10 + 1.645 · √1.6 = 10.1: all 10 and the person
    expect(part(between(100, 50, 140, 'measured', ''), of, { value: 99, low: 139, high: 49 })).toMatchObject({
      ...{ value: 100 / 9, low: 50 / 11, high: 140 / 8 },
    });
    // where the rate alone is not sure
    expect(part(between(100, 50, 140, 'measured', ''), others(), ten)).toMatchObject({ value: 90, low: 40, high: 130 });
  });
});

describe('what Wi-Fi lets through', () => {
  const share = (endpoint: object, otherwise: Otherwise = {}, own?: { mbps: number; medium?: 'wifi' | 'wired'; own?: boolean }) => {
    const facts = small({ ...otherwise, endpoint });
    const downMbps = own && taken(own.mbps, { own: own.own ?? true, medium: own.medium ?? 'wifi' });
    const found = wifiShare({ ...facts, evidence: { ...facts.evidence, downMbps } as never });
    return found && span(found);
  };
  const at = (dbm: number) => wifiRateAt(dbm);
  test('does not bind on a cable, nor where the device itself measured as much over it', () => {
    expect(share({ connection: 'wired', wifiSignalDbm: -80 })).toBeNull();
    expect(share({ connection: 'wifi' }, {}, { mbps: 40 })).toBeNull();
    expect(share({ connection: 'wifi', wifiSignalDbm: -60 }, {}, { mbps: at(-60).highMbps })).toBeNull();
  });
  test('what was measured counts where it was this device’s own, and not over a cable', () => {
    const unmeasured = share({ connection: 'wifi', wifiSignalDbm: -60 });
    expect(share({ connection: 'wifi', wifiSignalDbm: -60 }, {}, { mbps: 4, own: false })).toEqual(unmeasured);
    expect(share({ connection: 'wifi', wifiSignalDbm: -60 }, {}, { mbps: 4, medium: 'wired' })).toEqual(unmeasured);
  });
  test('more than any Wi-Fi does at that signal is not believed', () => {
    const { highMbps } = at(-60);
    expect(share({ connection: 'wifi', wifiSignalDbm: -60 }, {}, { mbps: highMbps + 1 })).toEqual({
      ...{ value: highMbps, low: highMbps, high: highMbps, source: 'computed' },
    });
    expect(share({ connection: undefined, wifiSignalDbm: -60 }, {}, { mbps: highMbps + 1 })).toBeNull();
  });
  test('by its signal: the least among those active in the cell, the most alone, between them the mean of the two as factors', () => {
    const { lowMbps, highMbps } = at(-60);
    const four = share({ connection: 'wifi', wifiSignalDbm: -60 });
    expect(four).toEqual({
      value: expect.closeTo(Math.sqrt((lowMbps / 4) * highMbps), 9),
      low: lowMbps / 4,
      high: highMbps,
      source: 'computed',
    });
    const two = share({ connection: 'wifi', wifiSignalDbm: -60 }, { location: { ownLines: true, kind: 'home' } });
    expect(two?.low).toBeCloseTo(lowMbps / 2, 9);
  });
  test('of a signal nobody told: from −75 to −50 dBm; where it may be a cable, as little as Wi-Fi at worst', () => {
    const [worst, best] = [at(-75).lowMbps / 4, at(-50).highMbps];
    expect(share({ connection: 'wifi' })).toEqual({
      value: expect.closeTo(Math.sqrt(worst * best), 9),
      low: worst,
      high: best,
      source: 'assumed',
    });
    expect(share({ connection: undefined })).toEqual({ value: Infinity, low: worst, high: Infinity, source: 'assumed' });
    // no signal at all: nothing, and not the square root of it
    expect(share({ connection: 'wifi', wifiSignalDbm: -95 })?.low).toBe(at(-95).lowMbps / 4);
  });
});
