import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { anyCrossing, otherwiseOf } from '../../test/anySmall.js';
import { demoEstate, demoInstant } from '../../test/demo.js';
import { on } from '../../test/judged.js';
import { small } from '../../test/small.js';
import { modelOf } from '../estate/index.js';
import { inOrder } from './chance.js';
import { chanceAtMost, chanceOf, computeFigures, FactsReader, type Aspect, type CrossingFigures } from './index.js';

describe('the chance that a figure between two ends is at most a limit', () => {
  // scipy.stats.triang.cdf(limit, (value - low) / (high - low), loc=low, scale=high - low), SciPy 1.17.1
  test.each([
    [0, 5, 10, 5, 0.5],
    [0, 5, 10, 2, 0.08],
    [0, 5, 10, 9, 0.98],
    [0, 2, 10, 1, 0.05],
    [0, 2, 10, 2, 0.2],
    [0, 2, 10, 3, 0.3875],
    [10, 30, 110, 25, 0.1125],
    [10, 30, 110, 100, 0.9875],
    [1, 1, 3, 1.5, 0.4375],
    [1, 3, 3, 2.5, 0.5625],
    [-4, -1, 0, -2, 0.333333333333],
    [20, 40, 400, 150, 0.543128654971],
    [0.5, 0.9, 1, 0.95, 0.95],
  ])('from %f by %f to %f: at most %f', (low, value, high, limit, chance) =>
    expect(chanceAtMost({ low, value, high }, limit)).toBeCloseTo(chance, 10),
  );
  test('is none below its lower end and certain from its upper one on; of one figure it is the one or the other', () => {
    const span = { low: 10, value: 20, high: 40 };
    expect([9, 10, 40, 41].map((limit) => chanceAtMost(span, limit))).toEqual([0, 0, 1, 1]);
    expect([19, 20].map((limit) => chanceAtMost({ low: 20, value: 20, high: 20 }, limit))).toEqual([0, 1]);
    // the likeliest outside of its ends counts as the nearer end
    expect(chanceAtMost({ low: 0, value: 50, high: 10 }, 5)).toBeCloseTo(0.25, 12);
    expect(chanceAtMost({ low: 0, value: -50, high: 10 }, 5)).toBeCloseTo(0.75, 12);
    expect(chanceAtMost({ low: 0, value: 5, high: Infinity }, 100)).toBe(0.5);
  });
});

const plain = computeFigures(small(on));
const aspects = Object.fromEntries(Object.keys(plain.aspects).map((each) => [each, 'clear'])) as CrossingFigures['aspects'];
/** A crossing that is Unknown by one aspect alone, which hangs on one fact. */
const unknownBy = (aspect: Aspect, more: Partial<CrossingFigures>): CrossingFigures => ({
  ...plain,
  verdict: 'unknown',
  missing: [],
  aspects: { ...aspects, [aspect]: 'unknown' },
  doubts: { [aspect]: 'line rate' },
  ...more,
});
const chanceBy = (aspect: Aspect, more: Partial<CrossingFigures>) => {
  const { clear, settles } = chanceOf(unknownBy(aspect, more));
  expect(settles).toEqual({ fact: 'line rate', chance: clear });
  return clear;
};
const { wanted } = plain;

test('what is in doubt always hangs on a fact, so that no Unknown is told as certain to be Clear', () => {
  let unknown = 0;
  const see = (f: CrossingFigures) => {
    const doubtful = Object.entries(f.aspects).filter(([, verdict]) => verdict === 'unknown');
    expect(doubtful.filter(([aspect]) => !f.doubts[aspect as Aspect])).toEqual([]);
    if (f.verdict !== 'unknown') return;
    unknown++;
    expect(chanceOf(f).clear).toBeLessThan(1);
  };
  const { estate, measurements } = demoEstate();
  const reader = new FactsReader(modelOf(estate, measurements), demoInstant);
  for (const ref of reader.model.crossings) see(computeFigures(reader.read(ref)!));
  fc.assert(
    fc.property(anyCrossing, (any) => see(computeFigures(small(otherwiseOf(any))))),
    { numRuns: 300 },
  );
  expect(unknown).toBeGreaterThan(100);
});

describe('the chance that a crossing is Clear, by what is in doubt', () => {
  test('is certain where it is Clear, and none where it is short or shut for certain', () => {
    expect(plain.verdict).toBe('clear');
    expect(chanceOf(plain)).toEqual({ clear: 1, settles: null });
    for (const verdict of ['limited', 'blocked'] as const) expect(chanceOf({ ...plain, verdict })).toEqual({ clear: 0, settles: null });
  });
  test('the delay and its worst twentieth, at most what is wanted and so many times that', () => {
    const at = (limit: number) => ({ value: limit, low: 0, high: 4 * limit });
    const delay = { ...plain.delay, ...at(wanted.keyToPixelMs) };
    // a peak at a quarter of the width: so much lies below it
    expect(chanceBy('delay', { delay })).toBeCloseTo(0.25, 12);
    const worst = { ...plain.delay.worst, ...at(wanted.keyToPixelMs * plain.assumed.finding.worstDelayFactor) };
    expect(plain.assumed.finding.worstDelayFactor).toBeGreaterThan(1);
    expect(chanceBy('sticking', { delay: { ...plain.delay, worst } })).toBeCloseTo(0.25, 12);
  });
  test('frames, at least what is wanted, or as many as the setting lets through where that is less', () => {
    const framesOf = (cap: number) => ({ ...plain.frames, cap, value: 10, low: 0, high: 40 });
    const least = wanted.framesAtLeast;
    expect(least).toBe(20);
    // above 20 of 0 to 40, peak at 10: (40 − 20)² / (40 · 30)
    expect(chanceBy('frames', { frames: framesOf(60) })).toBeCloseTo(400 / 1200, 12);
    // above 5: 1 − 5² / (40 · 10)
    expect(chanceBy('frames', { frames: framesOf(5) })).toBeCloseTo(1 - 25 / 400, 12);
  });
  test('the loss, at most five percent or what the estate says', () => {
    const way = { ...plain.way, loss: { ...plain.way.loss, value: 5, low: 0, high: 20 } };
    expect(chanceBy('loss', { way })).toBeCloseTo(0.25, 12);
    expect(chanceBy('loss', { way, wanted: { ...wanted, lossAtMostPercent: 10 } })).toBeCloseTo(1 - 100 / (20 * 15), 12);
  });
  test('voice, where somebody hears one and a grade is wanted', () => {
    const heard = (more: object) => ({ voice: { ...plain.voice, heard: more } }) as never;
    const mos = { mos: 3, low: 2, high: 4 };
    expect(wanted.voiceMosAtLeast).toBe(3.6);
    // (4 − 3.6)² / (2 · 1)
    expect(chanceBy('voice', heard(mos))).toBeCloseTo(0.08, 12);
    expect(chanceBy('voice', { voice: { ...plain.voice, heard: null } as never })).toBe(0.99);
    expect(chanceBy('voice', { ...(heard(mos) as object), wanted: { ...wanted, voiceMosAtLeast: undefined } })).toBe(0.99);
  });
  test('what is sent, at least what is there upwards; half where nobody knows that', () => {
    const way = { ...plain.way, availableUp: { value: 2, low: 0, high: 8 } } as never;
    // above 4 of 0 to 8 with the peak at 2: 4² / (8 · 6)
    expect(chanceBy('sending', { way, upNeededMbps: 4 })).toBeCloseTo(16 / 48, 12);
    expect(chanceBy('sending', { way: { ...plain.way, availableUp: null } as never })).toBe(0.5);
  });
  test('the time until usable, at most what is wanted', () => {
    const timeline = { ...plain.timeline, totalS: wanted.usableWithinS, lowS: 0, highS: 2 * wanted.usableWithinS };
    expect(chanceBy('usable', { timeline })).toBeCloseTo(0.5, 12);
    expect(chanceBy('desk', {})).toBe(0.8);
  });
  test('what lies on its limit tells little and never nothing; what hangs on the same fact comes out together', () => {
    const delay = (limit: number) => ({ ...plain.delay, value: limit, low: limit, high: limit });
    expect(chanceBy('delay', { delay: delay(10) })).toBe(0.99);
    expect(chanceBy('delay', { delay: delay(10_000) })).toBe(0.01);
    const both = unknownBy('delay', { delay: { ...plain.delay, value: 150, low: 0, high: 600 } });
    const together = {
      ...both,
      aspects: { ...both.aspects, desk: 'unknown' as const },
      doubts: { ...both.doubts, desk: 'line rate' as const },
    };
    expect(chanceOf(together)).toEqual({ clear: 0.25, settles: { fact: 'line rate', chance: 0.25 } });
    // of two facts the one that weighs most settles; both have to come out well
    const apart = { ...together, doubts: { ...both.doubts, desk: 'screens' as const } };
    expect(chanceOf(apart).clear).toBeCloseTo(0.25 * 0.8, 12);
    expect(chanceOf(apart).settles).toEqual({ fact: 'line rate', chance: 0.25 });
    // an aspect in doubt that hangs on no fact, and one that is not in doubt, do not count
    expect(chanceOf({ ...both, doubts: {} })).toEqual({ clear: 1, settles: null });
    expect(chanceOf({ ...both, aspects, doubts: both.doubts })).toEqual({ clear: 1, settles: null });
  });
  test('a fact that nobody knows counts as often as it is in order, unless it was weighed by a figure', () => {
    const missing = ['certificate', 'client version', 'line rate'] as const;
    const by = (more: Partial<CrossingFigures>) =>
      chanceOf({ ...plain, verdict: 'unknown', aspects, doubts: {}, missing: [...missing], ...more });
    expect(by({})).toEqual({ clear: inOrder.certificate! * inOrder['client version']!, settles: { fact: 'client version', chance: 0.8 } });
    const weighed = by({ aspects: { ...aspects, desk: 'unknown' }, doubts: { desk: 'certificate' } });
    expect(weighed.clear).toBeCloseTo(0.8 * 0.8, 12);
    // of two that weigh as much the first is told
    expect(weighed.settles).toEqual({ fact: 'certificate', chance: 0.8 });
  });
});
