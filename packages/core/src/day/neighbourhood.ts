import type { Evening } from '../assumed/index.js';
import { between, type Estimate } from '../units/index.js';

/**
 * How busy those are with whom a line shares its cell, beam or street, by the full hour of their clock: 1 in the evening; common
 * practice, no source.
 */
const busyness = [
  0.3, 0.2, 0.1, 0.1, 0.1, 0.1, 0.1, 0.2, 0.5, 0.5, 0.5, 0.5, 0.5, 0.5, 0.5, 0.5, 0.5, 0.7, 0.85, 1, 1, 1, 0.8, 0.5,
] as const;

/** The evening may take half as much, or half as much again. */
const give = [1, 0.5, 1.5] as const;

/** Part of its rate that a line gives at an hour, where the evening is so many times as bad as is usual. */
const left = ({ share }: Evening, hour: number, times: number): number =>
  Math.max(0.05, 1 - (busyness[Math.floor(hour) % 24] ?? 1) * (1 - share) * times);

interface Factors {
  usual: number;
  least: number;
  most: number;
}
const factors = new WeakMap<Evening, Map<number, Factors>>();

/** What a rate is multiplied by, with its interval: the same for every line of a kind, so it is remembered for each pair of hours. */
function factorsOf(evening: Evening, hour: number, taken: number | null): Factors {
  let ofKind = factors.get(evening);
  if (!ofKind) factors.set(evening, (ofKind = new Map()));
  const pair = Math.floor(hour) * 25 + (taken === null ? 24 : Math.floor(taken));
  let known = ofKind.get(pair);
  if (!known) {
    const each = give.map((times) => left(evening, hour, times) / (taken === null ? 1 : left(evening, taken, times)));
    ofKind.set(pair, (known = { usual: each[0] as number, least: Math.min(...each), most: Math.max(...each) }));
  }
  return known;
}

/** Part of its rate that a line gives at an hour of the day, 0 to 1. @param evening null where the line is nobody else's @param hour local time, 0 up to 24 */
export function rateShareAt(evening: Evening | null, hour: number): number {
  return evening ? left(evening, hour, 1) : 1;
}

/**
 * A rate as it is at an hour of the day.
 * @param evening what the neighbourhood leaves then; null where the line is nobody else's
 * @param taken local hour at which it was measured; null for a rate that is declared: what the line gives when nobody else is there
 * @example 4G declared as 60 Mbit/s, in the evening: 30, between 15 and 45; measured as 30 in the evening, at noon: 45
 */
export function rateAt(rate: Estimate, evening: Evening | null, hour: number, taken: number | null): Estimate {
  if (!evening) return rate;
  const { usual, least, most } = factorsOf(evening, hour, taken);
  if (usual === 1 && least === 1 && most === 1) return rate;
  const { value, low, high, source, note, samples, notUsed } = rate;
  const at = between(value * usual, low * least, high * most, source, note, samples);
  at.notUsed = notUsed;
  return at;
}

/**
 * A round trip as it is at an hour of the day.
 * @param taken local hour at which it was measured; null where that is not told: at the quietest
 * @param leastMs what light takes: it is never shorter
 * @example 4G, 60 ms measured at noon (half as busy as the evening): 75 in the evening, between 60 and 82.5
 */
export function delayAt(delay: Estimate, evening: Evening | null, hour: number, taken: number | null, leastMs: number): Estimate {
  if (!evening) return delay;
  const at = (of: number) => evening.delayMs * (busyness[Math.floor(of) % 24] ?? 1);
  const more = at(hour) - (taken === null ? 0 : at(taken));
  if (more === 0) return delay;
  const { value, low, high, source, note, samples, notUsed } = delay;
  // what was measured stands, on the side that is not known to be otherwise
  const later = between(
    Math.max(Math.min(value, leastMs), value + more),
    Math.max(Math.min(low, leastMs), low + Math.min(0, more * 1.5)),
    high + Math.max(0, more * 1.5),
    source,
    note,
    samples,
  );
  later.notUsed = notUsed;
  return later;
}

/** A time of day as it is told. @param hour 0 up to 24, with its fraction @example 8 is "08:00", 9.7 "09:42" */
export const clock = (hour: number): string => {
  const minutes = Math.round(hour * 60) % 1440;
  return `${String(Math.floor(minutes / 60)).padStart(2, '0')}:${String(minutes % 60).padStart(2, '0')}`;
};
