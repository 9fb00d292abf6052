import { describe, expect, test } from '@jest/globals';
import { exact } from '../units/index.js';
import { shippedAssumed } from '../assumed/index.js';
import * as age from './index.js';

const { aged, ageInDays } = age;
const rule = shippedAssumed.evidence;
const weightOf = (at: string, atMs: number) => age.weightOf(at, atMs, rule);
const weightStepsOn = (at: string, atMs: number) => age.weightStepsOn(at, atMs, rule);
const evidenceAt = (evidence: age.Evidence, atMs: number) => age.evidenceAt(evidence, atMs, rule);

const day = (n: number) => Date.parse('2026-01-01T00:00:00Z') + n * 86_400_000;
const taken = '2026-01-01T23:59:00Z';

describe('what is old weighs less', () => {
  test('all for 89 days; from the 90th on in steps of 30, half of it each 180 days; nothing below an eighth', () => {
    expect([0, 89, 90, 119, 120, 269, 270].map((n) => weightOf(taken, day(n)))).toEqual(
      [0, 0, 30, 30, 60, 180, 210].map((lost) => 0.5 ** (lost / 180)),
    );
    // 540 days lost are an eighth, which is the least; 570 are nothing
    expect([day(90 + 510), day(90 + 539), day(90 + 540)].map((at) => weightOf(taken, at))).toEqual([0.125, 0.125, 0]);
  });

  test('days are counted from midnight to midnight UTC; what lies ahead, or is supposed of now, is fresh', () => {
    expect([ageInDays(taken, day(1) - 1), ageInDays(taken, day(1)), ageInDays(taken, day(-3)), ageInDays('', day(9))]).toEqual([
      0, 1, 0, 0,
    ]);
    expect(weightOf('', day(9000))).toBe(1);
  });

  test('an estate may say for how long: fresh for 10 days, half lost in 60', () => {
    const own = { freshDays: 10, halvesInDays: 60 };
    expect([9, 10, 40].map((n) => age.weightOf(taken, day(n), own))).toEqual([1, 0.5 ** 0.5, 0.5]);
    expect([age.weightStepsOn(taken, day(9), own), age.weightStepsOn(taken, day(10), own)]).toEqual([false, true]);
  });

  test('it steps where the weight does, and nowhere else', () => {
    for (let n = 1; n < 800; n++)
      expect([n, weightStepsOn(taken, day(n))]).toEqual([n, weightOf(taken, day(n)) !== weightOf(taken, day(n) - 1)]);
  });

  test('the interval goes towards what is not ruled out, in proportion; the figure stays', () => {
    const figure = exact(20, 'measured', 'Ann, 2025');
    expect(aged(figure, 1, { low: 5, high: 80 })).toBe(figure);
    expect(aged(figure, 0.75, { low: 8, high: 80 })).toMatchObject({ value: 20, low: 17, high: 35, note: 'Ann, 2025; old, weighs 75 %' });
    // what is not ruled out is never taken for narrower than what was measured
    expect(aged(figure, 0, { low: 8, high: 80 })).toMatchObject({ low: 8, high: 80, note: 'Ann, 2025; old, weighs nothing' });
    expect(aged(figure, 0.5, { low: 30, high: 10 })).toMatchObject({ low: 20, high: 20 });
  });

  test('facts of the line grow old each for itself; those of the device do not', () => {
    const fact = { by: 'Ann', note: '', samples: 1 };
    const evidence: age.Evidence = {
      rejected: [],
      oldest: { at: '2024-01-01T00:00:00Z', day: 19_723 },
      downMbps: { ...fact, at: '2024-01-01T00:00:00Z', value: 40 },
      upMbps: { ...fact, at: '2025-09-01T00:00:00Z', value: 10 },
      addedDownMs: { ...fact, at: '2025-12-30T00:00:00Z', value: 5 },
      screens: { ...fact, at: '2020-01-01T00:00:00Z', value: [] },
    };
    const now = evidenceAt(evidence, day(0));
    expect(now).not.toHaveProperty('downMbps');
    // 122 days: two steps
    expect(now.upMbps).toMatchObject({ value: 10, weight: 0.5 ** (60 / 180) });
    expect(now.addedDownMs).toBe(evidence.addedDownMs);
    expect(now.screens).toBe(evidence.screens);
    expect(evidenceAt(evidence, day(0))).toBe(now);
    expect(evidenceAt(evidence, day(30)).upMbps!.weight).toBe(0.5 ** (90 / 180));
    // as long as nothing is old it is the same
    const fresh: age.Evidence = { rejected: [], oldest: { at: '2025-12-30T00:00:00Z', day: 20_452 } };
    expect(evidenceAt(fresh, day(0))).toBe(fresh);
  });
});
