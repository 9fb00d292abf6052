import type { LineKind } from '@underpass/contracts';
import type { Assumed, Evening } from '../assumed/index.js';
import { activityAt, localTime, rateShareAt, workingDay } from '../day/index.js';
import type { Taken } from '../evidence/index.js';
import type { CrossingFacts, OtherDemand } from './facts.js';

type Place = CrossingFacts['location'];

/** Hours of a working day in which a line gives the same to as many, by the first of them. */
export interface HourClass {
  hour: number;
  /** Part of the people of the busiest hour who are active. */
  activity: number;
}

// a place is made anew with each change that is tried there, but its hours are mostly the same ones
interface Remembered {
  byPlace: WeakMap<Place, Map<LineKind, readonly HourClass[]>>;
  byHours: Map<string, readonly HourClass[]>;
}
const remembered = new WeakMap<Assumed, Remembered>();

/**
 * The hours of the working day of a place that may be the one in which its line gives least: of those in which it gives as much, the one
 * in which most are active; of those in which as many are, the one in which it gives least. In the last of them it gives least.
 */
export function busiestHours(location: Place, kind: LineKind, assumed: Assumed): readonly HourClass[] {
  let found = remembered.get(assumed);
  if (!found) remembered.set(assumed, (found = { byPlace: new WeakMap(), byHours: new Map() }));
  let byKind = found.byPlace.get(location);
  if (!byKind) found.byPlace.set(location, (byKind = new Map()));
  let known = byKind.get(kind);
  if (!known) {
    const key = `${location.worksFrom}|${location.worksTo}|${location.ownLines}|${kind}`;
    known = found.byHours.get(key);
    if (!known) {
      if (found.byHours.size > 5000) found.byHours.clear();
      found.byHours.set(key, (known = worstOf(location, kind, assumed)));
    }
    byKind.set(kind, known);
  }
  return known;
}

/** Part of the people of the busiest hour who are active in another; on a line of one's own nobody else is. */
export const activityHere = (location: Place, hour: number, { day, people }: Assumed): number =>
  location.ownLines ? 1 : activityAt(workingDay(location, day), hour, people);

function worstOf(location: Place, kind: LineKind, assumed: Assumed): HourClass[] {
  const { evening } = assumed.lines[kind];
  const all = workingDay(location, assumed.day).hours.map((hour) => ({
    hour,
    activity: activityHere(location, hour, assumed),
    share: rateShareAt(evening, hour),
  }));
  const isWorse = (a: (typeof all)[number], b: (typeof all)[number]) =>
    a.activity >= b.activity && a.share <= b.share && (a.activity > b.activity || a.share < b.share || all.indexOf(a) < all.indexOf(b));
  return all
    .filter((one) => !all.some((other) => isWorse(other, one)))
    .sort((a, b) => b.share - a.share)
    .map(({ hour, activity }) => ({ hour, activity }));
}

const partly = new WeakMap<OtherDemand, Map<number, OtherDemand>>();

/** The others of a line in an hour in which a part of them is active, 0 to 1. */
export function othersIn(others: OtherDemand, activity: number): OtherDemand {
  if (activity === 1 || others.count === 0) return others;
  let byActivity = partly.get(others);
  if (!byActivity) partly.set(others, (byActivity = new Map()));
  let known = byActivity.get(activity);
  if (!known) {
    const { activeShare, activeLow, activeHigh } = others;
    known = { ...others, activeShare: activeShare * activity, activeLow: activeLow * activity, activeHigh: activeHigh * activity };
    byActivity.set(activity, known);
  }
  return known;
}

const hours = new WeakMap<object, { zone: string; hour: number }>();

/**
 * The local hour at which something was measured, 0 up to 24.
 * @param hour the one that is looked at: what is supposed holds then, and that of a line of one's own does not matter
 */
export function takenHour(taken: Taken<unknown>, evening: Evening | null, { timeZone }: Place, hour: number): number {
  return evening && taken.at !== '' ? localHour(taken, timeZone) : hour;
}

/** The hour that the clock of a place showed when something was measured, 0 up to 24. */
export function localHour(taken: Taken<unknown>, zone: string): number {
  let known = hours.get(taken);
  if (known?.zone !== zone) hours.set(taken, (known = { zone, hour: localTime(Date.parse(taken.at), zone).hour }));
  return known.hour;
}
