import type { Location, Weekday } from '@underpass/contracts';
import type { Assumed } from '../assumed/index.js';

/** A working day of a place: its hours in their order, each by the full hour it begins with, 0 to 23. */
export interface WorkingDay {
  hours: readonly number[];
  days: readonly Weekday[];
  /** Nobody typed it. */
  assumed: boolean;
}

const minutes = (clock: string): number => Number(clock.slice(0, 2)) * 60 + Number(clock.slice(3));

type Hours = Pick<Location, 'worksFrom' | 'worksTo' | 'worksOn'>;
const days = new WeakMap<Hours, { by: Assumed['day']; day: WorkingDay }>();

/**
 * The working day of a place. One that ends before it begins goes past midnight, one that ends when it begins goes around the clock.
 * @param usual where the place does not say
 * @example 08:30 to 17:15: the hours from 8 to 17
 */
export function workingDay(location: Hours, usual: Assumed['day']): WorkingDay {
  let known = days.get(location);
  if (known?.by !== usual) {
    const { worksFrom = usual.worksFrom, worksTo = usual.worksTo, worksOn = usual.worksOn } = location;
    const from = minutes(worksFrom);
    const to = minutes(worksTo);
    const lastMinute = (to <= from ? to + 1440 : to) - 1;
    const hours: number[] = [];
    for (let hour = Math.floor(from / 60); hour <= Math.floor(lastMinute / 60) && hours.length < 24; hour++) hours.push(hour % 24);
    days.set(location, (known = { by: usual, day: { hours, days: worksOn, assumed: location.worksFrom === undefined } }));
  }
  return known.day;
}

/** A day of so many hours has a break in its middle; common practice, no source. */
const hoursWithBreak = 7;

/**
 * Part of the people of the busiest hour who are active in one hour of the day, 0 to 1: fewer in the first and the last hour and in the
 * break, next to nobody outside. Around the clock as many as ever: they work in turns.
 */
export function activityAt({ hours }: WorkingDay, hour: number, people: Assumed['people']): number {
  const i = hours.indexOf(hour);
  const n = hours.length;
  if (i < 0) return people.outside;
  if (n === 24 || n <= 2) return 1;
  if (i === 0) return people.first;
  if (i === n - 1) return people.last;
  return n >= hoursWithBreak && i === Math.floor(n / 2) ? people.break : 1;
}
