import type { Assumed } from '../assumed/index.js';
import type { Estimate } from '../units/index.js';

const dayMs = 86_400_000;

/*
 * How much a measurement still says of a line: all of it while it is fresh, then half of it each so many days, and nothing where less
 * than an eighth is left. It falls in steps of 30 days, at midnight UTC. Our rule; common practice, no source.
 */
/** For how long a measurement says all, and in how long it then loses half, days. */
export type AgeRule = Pick<Assumed['evidence'], 'freshDays' | 'halvesInDays'>;

/** It falls in steps of so many days. */
const stepDays = 30;
/** Where less than this is left it says nothing any more. */
const leastWeight = 1 / 8;

/** The day of an instant, counted from 1970, UTC. */
export const dayOf = (atMs: number): number => Math.floor(atMs / dayMs);

/** Whole days between a measurement and an instant; 0 where it lies ahead. */
export const ageInDays = (taken: string, atMs: number): number => (taken === '' ? 0 : Math.max(0, dayOf(atMs) - dayOf(Date.parse(taken))));

/**
 * What a measurement still weighs, 1 down to 0.
 * @param taken when it was taken, UTC; empty for what is supposed of now
 * @example fresh for 90 days and half lost in 180: 240 days old: a half; 420: a quarter; 630: nothing
 */
export function weightOf(taken: string, atMs: number, { freshDays, halvesInDays }: AgeRule): number {
  // most are fresh, and this is asked for every line
  const days = ageInDays(taken, atMs);
  if (days < freshDays) return 1;
  const weight = 0.5 ** (((Math.floor((days - freshDays) / stepDays) + 1) * stepDays) / halvesInDays);
  return weight < leastWeight ? 0 : weight;
}

/** Whether what a measurement weighs is another from this midnight on. */
export function weightStepsOn(taken: string, midnightMs: number, rule: AgeRule): boolean {
  const { freshDays } = rule;
  const days = ageInDays(taken, midnightMs);
  return (
    days >= freshDays && (days - freshDays) % stepDays === 0 && weightOf(taken, midnightMs, rule) !== weightOf(taken, midnightMs - 1, rule)
  );
}

/**
 * A figure that was measured long ago: its interval goes towards what is not ruled out where nobody measured, by as much as it lost.
 * @param unmeasured the interval without the measurement
 */
export function aged<E extends Estimate>(figure: E, weight: number, unmeasured: { low: number; high: number }): E {
  if (weight === 1) return figure;
  const towards = (end: number, other: number) => weight * end + (1 - weight) * other;
  return {
    ...figure,
    low: Math.min(figure.low, towards(figure.low, unmeasured.low)),
    high: Math.max(figure.high, towards(figure.high, unmeasured.high)),
    note: `${figure.note}; old, weighs ${weight === 0 ? 'nothing' : `${Math.round(weight * 100)} %`}`,
  };
}
